/** A tree's mulch as it is stored, and as it would be with what is typed: reckoned by the core at once, nothing stored. */
import { ref, shallowRef, watch } from 'vue'
import { api, take, type Schema } from '@/api/client'
import { dayCount } from '@/composables/useDay'
import { useLook } from '@/composables/useLook'
import { useResource } from '@/composables/useResource'

export function useMulchDraft(treeId: () => string) {
  const path = () => ({ tree_id: treeId() })
  const { data, error, loading, load } = useResource(
    (signal) => take(api.GET('/api/trees/{tree_id}/mulch', { params: { path: path() }, signal })),
    [treeId, dayCount],
  )
  const page = shallowRef<Schema['MulchPageOut'] | null>(null)
  const choice = ref<Schema['MulchChoiceIO'] | null>(null)
  const typed = ref(false)
  watch(data, (got) => {
    if (!got) return
    page.value = got
    choice.value = { ...got.choice }
    typed.value = false
    forget()
  })
  const { look, forget, errors } = useLook(
    (signal) =>
      choice.value &&
      take(api.POST('/api/trees/{tree_id}/mulch/look', { params: { path: path() }, body: choice.value, signal })),
    (found) => (page.value = found),
    { field: 'depth_m' },
  )
  function measure(value: Schema['MulchChoiceIO']) {
    choice.value = value
    typed.value = true
    look()
  }
  return { data, error, loading, load, page, choice, typed, errors, measure }
}
