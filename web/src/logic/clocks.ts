/** Clocks of running water: a stored start and the goes that were planned. Nothing but the time of day moves them. */

export interface Clock {
  treeId: string
  tag: string
  litres: number
  runMin: number
  goes: { count: number; run_min: number; rest_min: number; last_min: number }
  startedAt: number
}

export interface Phase {
  kind: 'running' | 'resting' | 'over'
  /** The go that runs, or comes next, from 1. */
  go: number
  /** When this run or rest ends [ms]. */
  endsAt: number
  /** When the last go ends [ms]. */
  offAt: number
}

const MINUTE = 60_000

/** Where a clock stands at a time [ms]. */
export function phase(clock: Clock, now: number): Phase {
  const { count, run_min, rest_min, last_min } = clock.goes
  const offAt = clock.startedAt + ((count - 1) * (run_min + rest_min) + last_min) * MINUTE
  let at = clock.startedAt
  for (let go = 1; go <= count; go++) {
    const runEnds = at + (go === count ? last_min : run_min) * MINUTE
    if (now < runEnds) return { kind: 'running', go, endsAt: runEnds, offAt }
    const restEnds = runEnds + rest_min * MINUTE
    if (go < count && now < restEnds) return { kind: 'resting', go: go + 1, endsAt: restEnds, offAt }
    at = restEnds
  }
  return { kind: 'over', go: count, endsAt: offAt, offAt }
}

/** Minutes that water has run by a time [ms], rests not counted. */
export function ranMin(clock: Clock, now: number): number {
  const { count, run_min, rest_min, last_min } = clock.goes
  let left = Math.max(0, (now - clock.startedAt) / MINUTE)
  let ran = 0
  for (let go = 1; go <= count && left > 0; go++) {
    const run = go === count ? last_min : run_min
    ran += Math.min(left, run)
    left -= run + rest_min
  }
  return ran
}

/** Litres poured by a time [ms], at the flow that the plan was made with. */
export function pouredL(clock: Clock, now: number): number {
  return clock.runMin > 0 ? (clock.litres * ranMin(clock, now)) / clock.runMin : clock.litres
}
