/** Whether the program answers. Where it stops to, it is asked again every few seconds, and pages load anew by themselves. */
import { ref } from 'vue'

const AGAIN_MS = 3000
/** So long at most between two looks: a phone in a pocket all day is not worn down by them. */
const SELDOM_MS = 30_000
let wait_ms = AGAIN_MS
/** No answer, or one that its record can't be reached. */
export const lost = ref(false)
/** Counts how often it came back. */
export const returned = ref(0)
/** Counts how often something was refused because nobody is signed in. */
export const refusedIn = ref(0)
let timer: ReturnType<typeof setTimeout> | undefined

export function isLost(status: number, code: string | undefined) {
  return status === 0 || (status === 503 && code !== 'busy')
}

/** What an answer, or its lack, says of the connection. */
export function noticed(gone: boolean) {
  if (gone) {
    wait_ms = lost.value ? wait_ms : AGAIN_MS
    lost.value = true
    if (timer === undefined) timer = setTimeout(() => void tryAgain(), wait_ms)
  } else if (lost.value) {
    lost.value = false
    clearTimeout(timer)
    timer = undefined
    returned.value++
  }
}

/** Look at once whether it is back. */
export async function tryAgain() {
  clearTimeout(timer)
  timer = undefined
  const back = await fetch('/api/session').then(
    (answer) => answer.ok,
    () => false,
  )
  if (!back) wait_ms = Math.min(1.5 * wait_ms, SELDOM_MS)
  noticed(!back)
}

if (typeof window !== 'undefined') {
  window.addEventListener('offline', () => noticed(true))
  window.addEventListener('online', () => void tryAgain())
}
