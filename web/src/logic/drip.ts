/** Which words tell what a layout misses. */
import type { Schema } from '@/api/client'

export function missKey(a: Schema['AchievementOut']): string {
  const under = a.value !== null && a.low !== null && a.value < a.low
  if (a.key === 'wetted_fraction' && a.value !== null) return under ? 'wetted_low' : 'wetted_high'
  if (a.key === 'run_time') return under ? 'run_short' : 'run_long'
  return a.key
}

export const missed = (six: Schema['AchievementOut'][]) => six.filter((a) => !a.passed).map(missKey)
