/** What lies on a drawing, in hand: an emitter or a handle dragged, moved by arrow keys, taken out; or a new emitter put
 * where it is tapped. */
import { nextTick, ref, watch, type Ref } from 'vue'
import type { Schema } from '@/api/client'
import { placeAt, type PlanFrame } from '@/drawing/plan'
import { keyOf, type Handle } from '@/logic/handles'

type Emitter = Schema['DripperOut']
type Thing = { emitter: Emitter; handle: null } | { emitter: null; handle: Handle }
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
  hold: (handle: Handle, x: number, y: number) => void
  nudge: (handle: Handle, right: number, up: number) => void
}

/** Things lie closer than a thumb is wide: the nearest one is meant. */
const NEAR_PX = 26
/** Nobody lays an emitter finer, in m. */
const LEAST_M = 0.001
const ARROWS: Record<string, [number, number]> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
}
const named = ({ emitter, handle }: Thing) => (emitter ? String(emitter.number) : keyOf(handle!))

/**
 * @param props What is drawn, and how it may be changed.
 * @param handles What else can be taken hold of.
 * @param asked The number of the emitter in hand; grip: the handle in hand.
 * @param done Told while it is moved, and when it is put down.
 */
export function useInHand(
  props: Drawn,
  handles: Ref<Handle[]>,
  asked: Ref<number | null | undefined>,
  grip: Ref<Handle | null | undefined>,
  drawing: Ref<SVGSVGElement | null>,
  frame: Ref<PlanFrame>,
  done: Done,
) {
  /** Where an emitter is shown while it is moved, until the answer shows where it lies. */
  const held = ref<{ number: number; x: number; y: number } | null>(null)
  let dragging: Thing | null = null
  watch([() => props.look, () => props.answered], () => {
    if (!dragging) held.value = null
  })
  /** Words above the drawing come and go with each answer: it stays under the finger that drags on it. */
  let top = 0
  function stay() {
    if (dragging) window.scrollBy({ top: drawing.value!.getBoundingClientRect().top - top, behavior: 'instant' })
  }
  watch(() => [props.look, props.answered], stay, { flush: 'post' })
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
  const reached = (name: string) => drawing.value?.querySelector<SVGGElement>(`[data-thing="${name}"]`)
  function choose({ emitter, handle }: Thing) {
    asked.value = emitter?.number ?? null
    grip.value = handle
  }
  function take(event: PointerEvent) {
    if (!props.editing || props.adding) return
    const [x, y] = under(event)
    const things: (Thing & { far: number })[] = [
      ...props.look.emitters.map((e) => ({ emitter: e, handle: null, far: Math.hypot(e.x_m - x, e.y_m - y) })),
      ...handles.value.map((h) => ({ emitter: null, handle: h, far: Math.hypot(h.x - x, h.y - y) })),
    ]
    const nearest = things.sort((a, b) => a.far - b.far)[0]
    if (!nearest || nearest.far * frame.value.scale > NEAR_PX) return
    event.preventDefault() // no text is selected, no page scrolled, while it is dragged
    drawing.value!.setPointerCapture(event.pointerId)
    choose(nearest)
    reached(named(nearest))?.focus({ preventScroll: true })
    dragging = nearest
    top = drawing.value!.getBoundingClientRect().top
  }
  function drag(event: PointerEvent) {
    if (!dragging) return
    stay()
    if (dragging.handle) return done.hold(dragging.handle, ...under(event))
    const { number, x_m, y_m } = dragging.emitter
    const [x, y] = snapped(under(event))
    const [wasX, wasY] = held.value ? [held.value.x, held.value.y] : [x_m, y_m]
    if (Math.hypot(x - wasX, y - wasY) <= LEAST_M) return
    held.value = { number, x, y }
    done.move(number, x, y)
  }
  function drop() {
    dragging = null
    const last = held.value
    if (last) done.move(last.number, last.x, last.y) // its answer shows where it lies
  }
  function leave() {
    dragging = null
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
      const left = props.look.emitters.length - 1
      done.remove(e.number)
      // the next one has its number now; after the last one, the one before it
      const unwatch = watch(
        () => props.look.emitters.length,
        async () => {
          unwatch()
          await nextTick()
          reached(String(Math.min(e.number, left)))?.focus({ preventScroll: true })
        },
      )
    }
  }
  function turn(event: KeyboardEvent, handle: Handle) {
    const arrow = ARROWS[event.key]
    if (!arrow) return
    event.preventDefault()
    done.nudge(handle, ...arrow)
  }
  const put = (event: MouseEvent) => props.adding && done.add(...snapped(under(event)))
  return { held, placed, choose, take, drag, drop, leave, key, turn, put }
}
