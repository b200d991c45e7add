/** Fetching for a view: the newest question alone may write its answer; error, loading and content in one place. */
import { onScopeDispose, ref, shallowRef, watch, type WatchSource } from 'vue'
import { Problem } from '@/api/client'

export function useResource<T>(fetcher: (signal: AbortSignal) => Promise<T>, again: WatchSource[] = []) {
  const data = shallowRef<T | null>(null)
  const error = ref<Problem | null>(null)
  const loading = ref(true)
  let current: AbortController | null = null

  async function load() {
    current?.abort()
    const mine = new AbortController()
    current = mine
    loading.value = true
    try {
      const answer = await fetcher(mine.signal)
      if (current !== mine) return
      data.value = answer
      error.value = null
    } catch (e) {
      if (current !== mine) return
      error.value = e instanceof Problem ? e : new Problem(0, String(e), '', {})
    } finally {
      if (current === mine) loading.value = false
    }
  }

  if (again.length) watch(again, () => void load())
  onScopeDispose(() => current?.abort())
  void load()
  return { data, error, loading, load }
}
