/** The program's time: the server's, which in the demo is a pinned day. */
import { ref } from 'vue'
import { api, take, type Schema } from '@/api/client'
import { asksTime } from '@/offline/outbox'
import { nowMs, setTime } from '@/offline/time'

const clock = ref<Schema['ClockOut'] | null>(null)

async function refresh() {
  clock.value = await take(api.GET('/api/clock'))
  setTime(clock.value.now)
  return clock.value
}
asksTime(refresh)

async function nextDay() {
  clock.value = await take(api.POST('/api/clock/next-day'))
  setTime(clock.value.now)
}

/** Now, as an ISO time for the log. */
function nowIso(): string {
  return new Date(nowMs()).toISOString()
}

export function useClock() {
  return { clock, refresh, nextDay, nowIso, nowMs }
}
