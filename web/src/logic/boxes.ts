/** Boxes at valves as pages show them: which runs are of a day, in which order, which can be stopped. */
import type { Schema } from '@/api/client'
import { civilDay } from '@/logic/dates'

type Run = Schema['BoxRunOut']
const ORDER: Record<Run['state'], number> = {
  running: 0,
  sent: 1,
  planned: 1,
  missed: 2,
  stopped: 3,
  done: 3,
  dropped: 4,
}

/** What runs, then what will run by its hour, then what was, the newest first. */
export const inOrder = (runs: readonly Run[]): Run[] =>
  [...runs].sort(
    (a, b) => ORDER[a.state] - ORDER[b.state] || (ORDER[a.state] < 2 ? 1 : -1) * a.starts_at.localeCompare(b.starts_at),
  )

export const canStop = (run: Run) => run.state === 'running' || run.state === 'sent' || run.state === 'planned'

/** Runs of a civil day at a box's site. */
export const ofDay = (box: Schema['BoxOut'], day: string): Run[] =>
  box.runs.filter((run) => civilDay(Date.parse(run.starts_at), box.timezone) === day)

/** Runs of the days after a civil day that can still be stopped: a box runs before anybody is up. */
export const afterDay = (box: Schema['BoxOut'], day: string): Run[] =>
  box.runs.filter((run) => canStop(run) && civilDay(Date.parse(run.starts_at), box.timezone) > day)

/** Whether a run's meter says that somebody has to look. */
export const isWrong = (run: Run) =>
  run.state === 'missed' || run.believed === false || (run.verdict !== null && run.verdict !== 'fine')

/** A clock time as an input has it, and minutes of the day. */
export const asTime = (minutes: number): string => {
  const whole = Math.min(Math.round(minutes), 24 * 60 - 1)
  return `${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`
}
export function asMinutes(time: string): number | null {
  const [hours, minutes] = time.split(':').map(Number)
  return hours === undefined || minutes === undefined || Number.isNaN(hours + minutes) ? null : 60 * hours + minutes
}
