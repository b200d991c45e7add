/** Changing a drawing by hand: which emitter is in hand, how far a step goes, back and forth. */
import { computed, ref, type Ref } from 'vue'
import type { Schema } from '@/api/client'
import { added, flowing, moved, removed, snapped, type Edit } from '@/logic/edits'
import { isUs } from '@/units'

/** Steps that a tape shows, in m. */
const US_STEPS = [0.0254, 0.0762, 0.3048]
const SI_STEPS = [0.02, 0.1, 0.5]

/**
 * @param drawn The layout that the drawing shows, null while there is none: changes are of its numbers.
 * @param ask Takes a layout with other changes, to be drawn.
 * @param wrong Why what was asked last can't be drawn, empty where it can.
 */
export function useEdits(
  drawn: Ref<Schema['DripLook'] | null>,
  ask: (choice: Schema['ChoiceIO']) => void,
  wrong: Ref<string>,
) {
  const editing = ref(false)
  const adding = ref(false)
  const selected = ref<number | null>(null)
  const size = ref(1)
  const undone = ref<Edit[]>([])
  const steps = computed(() => (isUs.value ? US_STEPS : SI_STEPS))
  const step = computed(() => steps.value[size.value]!)
  const choice = computed(() => drawn.value?.choice ?? null)
  const edits = computed<Edit[]>(() => choice.value?.edits ?? [])
  const chosen = computed(() => drawn.value?.emitters.find((e) => e.number === selected.value) ?? null)

  function make(next: Edit[]) {
    undone.value = []
    if (choice.value) ask({ ...choice.value, edits: next })
  }
  function snap(x: number, y: number): [number, number] {
    const c = choice.value
    const radii = c && c.pattern !== 'row_lines' ? [c.radius_m, c.pattern === 'two_rings' ? c.inner_radius_m : 0] : []
    return snapped(x, y, step.value, radii)
  }
  const move = (number: number, x: number, y: number) => make(moved(edits.value, number, x, y))
  const setFlow = (number: number, flow: number) => make(flowing(edits.value, number, flow))
  function add(x: number, y: number) {
    adding.value = false
    selected.value = (drawn.value?.emitters.length ?? 0) + 1
    make(added(edits.value, x, y))
  }
  function remove(number: number) {
    selected.value = null
    make(removed(edits.value, number))
  }
  function undo() {
    const last = edits.value[edits.value.length - 1]
    if (wrong.value && choice.value) return ask(choice.value) // what can't be drawn is gone, all before it stays
    if (!last || !choice.value) return
    undone.value = [...undone.value, last]
    ask({ ...choice.value, edits: edits.value.slice(0, -1) })
  }
  function redo() {
    const next = undone.value[undone.value.length - 1]
    if (!next || !choice.value) return
    undone.value = undone.value.slice(0, -1)
    ask({ ...choice.value, edits: [...edits.value, next] })
  }
  function stop() {
    editing.value = adding.value = false
    selected.value = null
  }
  return {
    editing, adding, selected, chosen, size, steps, step, edits, undone, snap, move, setFlow, add, remove, undo, redo,
    stop,
  } // prettier-ignore
}
