/** What looks like a second tap is asked about before it is stored: null where it was one. */
import { ref } from 'vue'
import { persist, Problem } from '@/api/client'

export const asking = ref(false)
let answer: ((again: boolean) => void) | null = null

export function answered(again: boolean) {
  asking.value = false
  answer?.(again)
  answer = null
}

type Send<T> = Parameters<typeof persist<T>>[0]

export async function sure<T>(send: (askAgain: boolean) => ReturnType<Send<T>>): Promise<T | null> {
  try {
    return await persist(() => send(true))
  } catch (e) {
    if (!(e instanceof Problem) || e.code !== 'again') throw e
  }
  asking.value = true
  const again = await new Promise<boolean>((resolve) => (answer = resolve))
  return again ? persist(() => send(false)) : null
}
