/** How a check-up is told: the act first, causes in words, how much one answer says. */
import type { Schema } from '@/api/client'

export type Act = NonNullable<Schema['CheckupLook']['water_act']> | 'dead'
export const actOf = (found: { water_act: Schema['CheckupLook']['water_act'] }): Act => found.water_act ?? 'dead'

const LITTLE_DB = 1.5
const MUCH_DB = 6

/** The words for a weight of evidence. */
export function weightWords(db: number): 'muchFor' | 'someFor' | 'little' | 'someAgainst' | 'muchAgainst' {
  if (Math.abs(db) < LITTLE_DB) return 'little'
  if (Math.abs(db) < MUCH_DB) return db > 0 ? 'someFor' : 'someAgainst'
  return db > 0 ? 'muchFor' : 'muchAgainst'
}

const FULL_DB = 15
/** Length of its bar, 0 to 1. */
export const weightShare = (db: number) => Math.min(1, Math.abs(db) / FULL_DB)
