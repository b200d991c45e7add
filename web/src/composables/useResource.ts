/** Fetching for a view: the newest question alone may write its answer; error, loading and content in one place. */
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { onScopeDispose, ref, shallowRef, watch, type WatchSource } from 'vue'
import { Problem } from '@/api/client'
import { returned } from '@/api/connection'
import { sent } from '@/offline/outbox'

const LIVE_EVERY_MS = 25_000

/**
 * again: what makes it another question. live: what others do shows too, when the page is looked at again and every
 * half minute; where such a look fails, what is there stays.
 */
export function useResource<T>(
  fetcher: (signal: AbortSignal) => Promise<T>,
  again: WatchSource[] = [],
  { live = false } = {},
) {
  const data = shallowRef<T | null>(null)
  const error = ref<Problem | null>(null)
  const loading = ref(true)
  let current: AbortController | null = null

  async function ask(quiet: boolean) {
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
      const problem = e instanceof Problem ? e : new Problem(0, String(e), '', {})
      const unanswered = problem.status === 0 || problem.status >= 500
      if (!(quiet && data.value !== null && unanswered)) error.value = problem
    } finally {
      if (current === mine) loading.value = false
    }
  }
  const load = () => ask(data.value !== null)

  if (again.length) watch(again, () => void ask(false))
  watch([returned, sent], () => void load())
  if (live) {
    const look = () => {
      if (document.visibilityState === 'visible' && !loading.value) void ask(true)
    }
    useIntervalFn(look, LIVE_EVERY_MS)
    useEventListener(window, 'focus', look)
    useEventListener(document, 'visibilitychange', look)
  }
  onScopeDispose(() => current?.abort())
  void ask(false)
  return { data, error, loading, load }
}
