/** Looking while somebody types: asked once they pause, only the newest question may answer, a refusal is told by field. */
import { useTimeoutFn } from '@vueuse/core'
import { onScopeDispose, ref } from 'vue'
import { Problem, type Wrong } from '@/api/client'

export const PAUSE_MS = 250

/**
 * @param ask What is asked, null where too little is typed to ask anything.
 * @param show Takes the answer.
 * @param options.field The field that a refusal which names none is told at.
 * @param options.none Called where nothing was asked or the answer was a refusal; else what was shown stays.
 */
export function useLook<T>(
  ask: (signal: AbortSignal) => Promise<T> | null,
  show: (answer: T) => void,
  options: { field?: string; none?: () => void } = {},
) {
  const errors = ref<Record<string, Wrong>>({})
  let asking: AbortController | null = null
  let again = false

  async function now() {
    asking?.abort()
    const mine = new AbortController()
    asking = mine
    const question = ask(mine.signal)
    if (question === null) {
      asking = null
      errors.value = {}
      return options.none?.()
    }
    again = false
    try {
      const answer = await question
      if (asking !== mine) return
      errors.value = {}
      show(answer)
    } catch (e) {
      if (asking !== mine) return
      if (!(e instanceof Problem)) throw e
      errors.value = Object.keys(e.fields).length ? e.fields : { [options.field ?? '']: e.detail }
      options.none?.()
    } finally {
      if (asking === mine) {
        asking = null
        if (again) void now()
      }
    }
  }
  const { start, stop } = useTimeoutFn(now, PAUSE_MS, { immediate: false })

  /** Something was typed. */
  function look() {
    asking?.abort()
    asking = null
    start()
  }
  /** Something moves: asked at once, and once more after the answer where it moved on meanwhile. */
  function live() {
    stop()
    if (asking) again = true
    else void now()
  }
  /** What was typed is gone: nothing that is still under way may answer. */
  function forget() {
    stop()
    asking?.abort()
    asking = null
    again = false
    errors.value = {}
  }
  onScopeDispose(forget)
  return { look, live, now, forget, errors }
}
