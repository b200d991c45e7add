/** Changing a drawing by hand: what is in hand, how far a step goes, what is asked for then. */
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import type { Schema } from '@/api/client'
import type { useDripDraft } from '@/composables/useDripDraft'
import { placeToward } from '@/drawing/plan'
import { added, flowing, moved, removed, snapped, type Edit } from '@/logic/edits'
import { held, keyOf, measureOf, nudged, withMeasure, type Handle, type Measures } from '@/logic/handles'
import { isUs } from '@/units'

/** Steps that a tape shows, in m. */
const US_STEPS = [0.0254, 0.0762, 0.3048]
const SI_STEPS = [0.02, 0.1, 0.5]

/** @param drawn The layout that the drawing shows, null while there is none: changes are of its numbers. */
export function useEdits(drawn: Ref<Schema['DripLook'] | null>, draft: ReturnType<typeof useDripDraft>) {
  const editing = ref(false)
  const adding = ref(false)
  const selected = ref<number | null>(null)
  const size = ref(1)
  const steps = computed(() => (isUs.value ? US_STEPS : SI_STEPS))
  const step = computed(() => steps.value[size.value]!)
  const edits = computed<Edit[]>(() => drawn.value?.choice.edits ?? [])
  const chosen = computed(() => drawn.value?.emitters.find((e) => e.number === selected.value) ?? null)
  /** A change that can't be laid is refused at its place or its number. */
  const wrong = computed(() => {
    const all = draft.errors.value
    const found = all.x_m ?? all.y_m ?? all.number ?? (editing.value ? Object.values(all)[0] : undefined)
    return typeof found === 'object' ? found.detail : (found ?? '')
  })

  function make(next: Edit[], what = '') {
    if (drawn.value) draft.draw({ ...drawn.value.choice, edits: next }, what, true)
  }
  function snap(x: number, y: number): [number, number] {
    const c = drawn.value?.choice
    const radii = c && c.pattern !== 'row_lines' ? [c.radius_m, c.pattern === 'two_rings' ? c.inner_radius_m : 0] : []
    return snapped(x, y, step.value, radii)
  }
  const move = (number: number, x: number, y: number) => make(moved(edits.value, number, x, y), `move${number}`)
  const setFlow = (number: number, flow: number) => make(flowing(edits.value, number, flow), `flow${number}`)
  function add(x: number, y: number) {
    adding.value = false
    selected.value = (drawn.value?.emitters.length ?? 0) + 1
    make(added(edits.value, x, y))
  }
  function remove(number: number) {
    selected.value = null
    make(removed(edits.value, number))
  }
  const grip = shallowRef<Handle | null>(null)
  const now = (): Measures => ({ choice: draft.choice.value!, obstacles: draft.obstacles.value })
  const gripped = computed(() => grip.value && draft.choice.value && measureOf(grip.value, now()))
  const ask = (handle: Handle, next: Measures) => draft.hold(next, `hold ${keyOf(handle)}`)
  const isTee = (one: Handle | null): one is Handle => one?.part === 'tee'
  /** A tee in hand is where it was put, until the answer shows where it lies. */
  const ofTee = (one: Handle) => (isTee(grip.value) && grip.value.at === one.at ? grip.value : one)
  function moveTee(one: Handle, x: number, y: number) {
    grip.value = { ...one, x, y }
    make(moved(edits.value, one.at + 1, x, y, 'tee'), `tee${one.at}`)
  }
  watch([drawn, draft.errors], () => {
    if (!isTee(grip.value)) return
    const tee = drawn.value?.fittings.filter((f) => f.kind === 'tee')[grip.value.at]
    grip.value = tee ? { ...grip.value, x: tee.x_m, y: tee.y_m } : null
  })
  function hold(one: Handle, x: number, y: number) {
    if (isTee(one)) moveTee(one, ...snap(x, y))
    else ask(one, held(one, x, y, step.value, now()))
  }
  function nudge(one: Handle, right: number, up: number) {
    const from = ofTee(one)
    if (isTee(one)) moveTee(one, from.x + right * step.value, from.y + up * step.value)
    else ask(one, nudged(one, right, up, step.value, now()))
  }
  function set(one: Handle, away: number, bearing: number) {
    if (isTee(one)) moveTee(one, ...placeToward(away, bearing))
    else ask(one, withMeasure(one, away, bearing, now()))
  }
  function stop() {
    editing.value = adding.value = false
    selected.value = grip.value = null
  }
  return {
    editing, adding, selected, chosen, grip, gripped, size, steps, step, wrong, snap, move, setFlow, add, remove, hold,
    nudge, set, stop,
    undo: draft.undo, redo: draft.redo, past: draft.past, ahead: draft.ahead,
  } // prettier-ignore
}
