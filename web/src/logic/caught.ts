/** What a catch test can find wrong with an emitter, the worst first. */
import type { Schema } from '@/api/client'

export const WRONG = ['blocked', 'weak', 'leaking'] as const
export type Wrong = (typeof WRONG)[number]

export const wrongOf = (caught: Schema['CatchOut'] | null | undefined, number: number): Wrong | null =>
  WRONG.find((kind) => caught?.[kind].includes(number)) ?? null
