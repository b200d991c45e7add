/** The program's time: the server's, which in the demo is a pinned day. */
import { ref } from 'vue'
import { api, take, type Schema } from '@/api/client'

const clock = ref<Schema['ClockOut'] | null>(null)
let ahead = 0

async function refresh() {
  clock.value = await take(api.GET('/api/clock'))
  ahead = new Date(clock.value.now).getTime() - Date.now()
}

async function nextDay() {
  clock.value = await take(api.POST('/api/clock/next-day'))
  ahead = new Date(clock.value.now).getTime() - Date.now()
}

/** Now, as an ISO time for the log. */
function nowIso(): string {
  return new Date(Date.now() + ahead).toISOString()
}

function nowMs(): number {
  return Date.now() + ahead
}

export function useClock() {
  return { clock, refresh, nextDay, nowIso, nowMs }
}
