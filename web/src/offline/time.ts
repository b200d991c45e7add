/**
 * The program's time on a device: its own clock set right by what the server said last, kept over a restart, and never
 * before the last moment that the server is known to have been at.
 */
import { ref } from 'vue'

const KEY = 'june-shade-time'
const KEEP_EVERY_MS = 10_000
/** So much may two clocks differ without one being wrong. */
export const SLACK_MS = 5 * 60_000

interface Kept {
  /** Program's time less the device's. */
  ahead: number
  /** The program's time when the server answered last. */
  known: number
}

const kept: Kept = JSON.parse(localStorage.getItem(KEY) ?? '{"ahead":0,"known":0}')
let ahead = kept.ahead
/** When the server answered last, in the program's time; 0 = never. */
export const knownMs = ref(kept.known)
let writtenMs = 0

export const aheadMs = () => ahead
/** Now, in the program's time. */
export const nowMs = () => Math.max(Date.now() + ahead, knownMs.value)
/** The device's clock says that it is before the server answered last: it is wrong, and nothing may be dated by it. */
export const isClockBehind = () => Date.now() + ahead < knownMs.value - SLACK_MS

/** The server said what time it is. */
export function setTime(nowIso: string) {
  const now = new Date(nowIso).getTime()
  ahead = now - Date.now()
  knownMs.value = now
  keep(true)
}

/** The server answered. */
export function answered() {
  const now = Date.now() + ahead
  if (now <= knownMs.value) return
  knownMs.value = now
  keep(false)
}

function keep(atOnce: boolean) {
  if (!atOnce && Math.abs(Date.now() - writtenMs) < KEEP_EVERY_MS) return
  writtenMs = Date.now()
  localStorage.setItem(KEY, JSON.stringify({ ahead, known: knownMs.value }))
}

/** When something was entered, as far as the device knew. */
export interface Moment {
  /** In the program's time. */
  at_ms: number
  /** On the device's own clock, how far the program's was ahead of it then, and when the server had answered last. */
  device_ms: number
  ahead_ms: number
  known_ms: number
}

export const moment = (): Moment => ({
  at_ms: nowMs(),
  device_ms: Date.now(),
  ahead_ms: ahead,
  known_ms: knownMs.value,
})

/**
 * When something was entered, now that the server can be asked: between its last answer before and now. The device's
 * clock may have been wrong, or been set, since. null = it can't be told, and a person is asked.
 */
export function settled(then: Moment, now: { server_ms: number; device_ms: number }): number | null {
  const fits = (at: number) => at >= then.known_ms - SLACK_MS && at <= now.server_ms + SLACK_MS
  const asEntered = then.device_ms + then.ahead_ms
  const asNow = then.device_ms + now.server_ms - now.device_ms
  const best = [asEntered, asNow].filter(fits)
  if (!best.length) return null
  if (best.length === 2 && Math.abs(asEntered - asNow) > SLACK_MS) return null
  return Math.min(best[0]!, now.server_ms)
}
