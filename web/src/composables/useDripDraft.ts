/** A tree's drip as it is stored, and as it would be with what is typed or moved: drawn by the core at once, nothing
 * stored; every change can be gone back on. */
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schema } from '@/api/client'
import { dayCount } from '@/composables/useDay'
import { useLook } from '@/composables/useLook'
import { useResource } from '@/composables/useResource'
import { isOther } from '@/logic/edits'
import type { Measures } from '@/logic/handles'

export function useDripDraft(id: () => string) {
  const { data, error, loading, load } = useResource(
    (signal) => take(api.GET('/api/trees/{tree_id}/drip', { params: { path: { tree_id: id() } }, signal })),
    [id, dayCount],
  )
  /** What is shown: the stored page, or the answer to what was typed. */
  const page = shallowRef<Schema['DripPageOut'] | null>(null)
  const choice = ref<Schema['ChoiceIO'] | null>(null)
  const obstacles = ref<Schema['ObstacleIO'][]>([])
  const typed = ref(false)
  const year = ref(0)
  const past = shallowRef<Measures[]>([])
  const ahead = shallowRef<Measures[]>([])
  /** What was changed last: changes of the same thing one after the other are one step back. */
  let last = ''
  const { look, live, forget, errors } = useLook(
    (signal) =>
      choice.value &&
      take(
        api.POST('/api/trees/{tree_id}/drip/look', {
          params: { path: { tree_id: id() } },
          body: { choice: choice.value, obstacles: obstacles.value },
          signal,
        }),
      ),
    (found) => (page.value = found),
    { field: 'pattern' },
  )
  watch(data, (got) => {
    if (!got) return
    page.value = got
    choice.value = { ...got.looks[0]!.look.choice }
    obstacles.value = got.obstacles.map((o) => ({ ...o }))
    typed.value = false
    year.value = 0
    past.value = ahead.value = []
    last = ''
    forget()
  })
  const refused = computed(() => Object.keys(errors.value).length > 0)

  function show(next: Measures, atOnce: boolean) {
    choice.value = next.choice
    obstacles.value = next.obstacles
    typed.value = past.value.length > 0
    year.value = 0
    if (atOnce) live()
    else look()
  }
  /** @param what Names what is changed, '' where it stands for itself. */
  function change(next: Partial<Measures>, what = '', atOnce = false) {
    if (!choice.value) return
    const before: Measures = { choice: choice.value, obstacles: obstacles.value }
    // what can't be drawn is no place to go back to
    if (!(what && what === last) && !refused.value) past.value = [...past.value, before]
    last = what
    ahead.value = []
    show({ ...before, ...next }, atOnce)
  }
  /** What was changed by hand was of the drawing before, and goes with it. */
  function measured(value: Schema['ChoiceIO']): Schema['ChoiceIO'] {
    return choice.value && isOther(value, choice.value) ? { ...value, edits: [] } : value
  }
  /** Measures as they are typed: of one of them, letter after letter, one step back. */
  function measure(value: Schema['ChoiceIO']) {
    const names = Object.keys(value) as (keyof Schema['ChoiceIO'])[]
    const other = names.filter((name) => value[name] !== choice.value?.[name])
    change({ choice: measured(value) }, other.length === 1 ? `type ${other[0]}` : '')
  }
  const draw = (value: Schema['ChoiceIO'], what = '', atOnce = false) => change({ choice: value }, what, atOnce)
  const stand = (value: Schema['ObstacleIO'][]) => change({ obstacles: value })
  const hold = (next: Measures, what: string) =>
    change({ choice: measured(next.choice), obstacles: next.obstacles }, what, true)
  function undo() {
    const before = past.value[past.value.length - 1]
    if (!before || !choice.value) return
    if (!refused.value) ahead.value = [...ahead.value, { choice: choice.value, obstacles: obstacles.value }]
    past.value = past.value.slice(0, -1)
    last = ''
    show(before, true)
  }
  function redo() {
    const next = ahead.value[ahead.value.length - 1]
    if (!next || !choice.value) return
    past.value = [...past.value, { choice: choice.value, obstacles: obstacles.value }]
    ahead.value = ahead.value.slice(0, -1)
    last = ''
    show(next, true)
  }
  return {
    data, error, loading, load, page, choice, obstacles, typed, year, errors, past, ahead, measure, draw, stand, hold,
    undo, redo,
  } // prettier-ignore
}
