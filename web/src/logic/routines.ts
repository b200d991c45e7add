/** Routines of watering: which figures each goes by, and where its season is drawn. Drawing and forms only. */
import type { Schema } from '@/api/client'

export type Routine = Schema['RoutineOut']
export type Figure = 'litres' | 'every_days' | 'mm' | 'flow_l_per_h' | 'hours' | 'dry_limit'

/** The figures of a routine that a person may change. */
export const FIGURES: Record<Routine['name'], Figure[]> = {
  balance: [],
  none: [],
  fixed: ['litres', 'every_days'],
  taper: ['litres'],
  heat: ['litres'],
  rainfall: ['mm'],
  slow_hose: ['flow_l_per_h', 'hours'],
  deep: ['every_days'],
  bare_root: ['litres'],
  when_dry: ['dry_limit'],
}

/** As it is sent: the figures that it goes by alone. */
export function sent(routine: Routine): Schema['RoutineIn'] {
  return { name: routine.name, ...Object.fromEntries(FIGURES[routine.name].map((f) => [f, routine[f]])) }
}

export interface Area {
  left: number
  width: number
  top: number
  height: number
}

/** A curve that hangs from the soil line: dryness by day, 0 at the top, `deepest` at the bottom. */
export function hanging(dryness: number[], area: Area, deepest: number): string {
  const step = area.width / dryness.length
  return dryness
    .map((dry, i) => {
      const x = area.left + (i + 1) * step
      const y = area.top + (area.height * Math.min(dry, deepest)) / deepest
      return `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`
    })
    .join('')
}

/** First days of months, or of weeks where there are few days: positions for marks under a season. */
export function marks(dates: string[]): number[] {
  const every = dates.length > 45 ? (iso: string) => iso.endsWith('-01') : (_: string, i: number) => i % 7 === 0
  return dates.map((iso, i) => (every(iso, i) ? i : -1)).filter((i) => i >= 0)
}
