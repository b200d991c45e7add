/** Running clocks, several at once; kept on the device, so that a lock, a reload or an empty battery loses nothing. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { phase, type Clock } from '@/logic/clocks'
import { useClock } from './useClock'

const clocks = useLocalStorage<Clock[]>('june-shade-clocks', [])
const now = ref(Date.now())

export function useClocks() {
  const { nowMs } = useClock()
  const tick = () => (now.value = nowMs())
  tick()
  useIntervalFn(tick, 1000)

  const running = computed(() =>
    clocks.value
      .map((clock) => ({ clock, phase: phase(clock, now.value) }))
      .sort((a, b) => a.phase.endsAt - b.phase.endsAt),
  )
  const of = (treeId: string) => running.value.find((r) => r.clock.treeId === treeId) ?? null
  function start(clock: Omit<Clock, 'startedAt'>) {
    if (of(clock.treeId)) return
    clocks.value = [...clocks.value, { ...clock, startedAt: nowMs() }]
    tick()
  }
  function stop(treeId: string) {
    clocks.value = clocks.value.filter((c) => c.treeId !== treeId)
  }
  return { running, of, start, stop, now }
}
