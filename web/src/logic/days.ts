/** Reckoning with civil days: ISO strings, without a time zone. */

export function day(iso: string): Date {
  const [y, m, d] = iso.slice(0, 10).split('-').map(Number)
  return new Date(Date.UTC(y!, m! - 1, d!))
}

export function daysBetween(from: string, to: string): number {
  return Math.round((day(to).getTime() - day(from).getTime()) / 86_400_000)
}

const written = (at: Date) => at.toISOString().slice(0, 10)

/** The civil day so many days on. */
export function daysOn(from: string, days: number): string {
  const at = day(from)
  at.setUTCDate(at.getUTCDate() + days)
  return written(at)
}

/** The first day of the month so many months on. */
export function monthsOn(from: string, months: number): string {
  const at = day(from)
  return written(new Date(Date.UTC(at.getUTCFullYear(), at.getUTCMonth() + months, 1)))
}
