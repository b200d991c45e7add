/** What looks like a second tap is asked about before it is stored: null where it was one. */
import { ref } from 'vue'
import { Problem } from '@/api/client'
import { written, type WAITS } from '@/offline/outbox'
import type { Write } from '@/offline/rows'

export const asking = ref(false)
let answer: ((again: boolean) => void) | null = null

export function answered(again: boolean) {
  asking.value = false
  answer?.(again)
  answer = null
}

export async function sure<T>(write: Write): Promise<T | typeof WAITS | null> {
  try {
    return await written<T>(write, { ask: true })
  } catch (e) {
    if (!(e instanceof Problem) || e.code !== 'again') throw e
  }
  asking.value = true
  const again = await new Promise<boolean>((resolve) => (answer = resolve))
  return again ? written<T>(write) : null
}
