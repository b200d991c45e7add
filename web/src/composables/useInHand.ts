/** An emitter of a drawing in hand: dragged, moved by arrow keys, taken out; or a new one put where it is tapped. */
import { ref, watch, type Ref } from 'vue'
import type { Schema } from '@/api/client'
import { placeAt, type PlanFrame } from '@/drawing/plan'

type Emitter = Schema['DripperOut']
interface Drawn {
  look: Schema['DripLook']
  size: number
  editing?: boolean
  adding?: boolean
  step?: number
  snap?: (x: number, y: number) => [number, number]
  answered?: object
}
interface Done {
  move: (number: number, x: number, y: number) => void
  add: (x: number, y: number) => void
  remove: (number: number) => void
}

/** Emitters lie closer than a thumb is wide: the nearest one is meant. */
const NEAR_PX = 26
/** Nobody lays an emitter finer, in m. */
const LEAST_M = 0.001
const ARROWS: Record<string, [number, number]> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
}

/**
 * @param props What is drawn, and how it may be changed.
 * @param asked The number of the emitter in hand.
 * @param done Told when it is put down.
 */
export function useInHand(
  props: Drawn,
  asked: Ref<number | null | undefined>,
  drawing: Ref<SVGSVGElement | null>,
  frame: Ref<PlanFrame>,
  done: Done,
) {
  /** Where an emitter is shown while it is moved, until the answer shows where it lies. */
  const held = ref<{ number: number; x: number; y: number } | null>(null)
  let dragging = false
  watch([() => props.look, () => props.answered], () => {
    if (!dragging) held.value = null
  })
  watch(
    () => props.adding,
    (now) => now && drawing.value?.scrollIntoView({ block: 'nearest' }), // the place is tapped on it
  )
  const placed = (e: Emitter): [number, number] =>
    held.value?.number === e.number ? [held.value.x, held.value.y] : [e.x_m, e.y_m]
  /** What lies under a pointer, in m, before it snaps. */
  function under(event: MouseEvent): [number, number] {
    const box = drawing.value!.getBoundingClientRect()
    const scale = props.size / box.width
    return placeAt(frame.value, (event.clientX - box.left) * scale, (event.clientY - box.top) * scale)
  }
  const snapped = (place: [number, number]) => (props.snap ? props.snap(...place) : place)
  function take(event: PointerEvent) {
    if (!props.editing || props.adding) return
    const [x, y] = under(event)
    const far = (e: Emitter) => Math.hypot(e.x_m - x, e.y_m - y)
    const nearest = [...props.look.emitters].sort((a, b) => far(a) - far(b))[0]
    if (!nearest || far(nearest) * frame.value.scale > NEAR_PX) return
    event.preventDefault() // no text is selected, no page scrolled, while it is dragged
    drawing.value!.setPointerCapture(event.pointerId)
    asked.value = nearest.number
    drawing.value!.querySelector<SVGGElement>(`[data-number="${nearest.number}"]`)?.focus({ preventScroll: true })
    dragging = true
  }
  function drag(event: PointerEvent) {
    if (!dragging || !asked.value) return
    const [x, y] = snapped(under(event))
    held.value = { number: asked.value, x, y }
  }
  function drop() {
    if (!dragging) return
    dragging = false
    const to = held.value
    const from = props.look.emitters.find((e) => e.number === to?.number)
    if (to && from && Math.hypot(to.x - from.x_m, to.y - from.y_m) > LEAST_M) done.move(to.number, to.x, to.y)
    else held.value = null
  }
  function leave() {
    dragging = false
    held.value = null
  }
  function key(event: KeyboardEvent, e: Emitter) {
    if (!props.editing) return
    const arrow = ARROWS[event.key]
    if (arrow) {
      event.preventDefault()
      const [x, y] = placed(e)
      const far = props.step ?? 0
      held.value = { number: e.number, x: x + arrow[0] * far, y: y + arrow[1] * far }
      done.move(e.number, held.value.x, held.value.y)
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault()
      done.remove(e.number)
    }
  }
  const put = (event: MouseEvent) => props.adding && done.add(...snapped(under(event)))
  return { held, placed, take, drag, drop, leave, key, put }
}
