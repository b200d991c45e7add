/** Dates as a person reads them; a civil day is an ISO string, read without a time zone. */
import { locale } from '@/i18n/language'
import { day } from './days'

export { daysBetween, daysOn, monthsOn } from './days'

const made = new Map<string, Intl.DateTimeFormat>()

/** Making one is slow: each is made once, when it is first wanted. */
function formatter(locale: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = locale + JSON.stringify(options)
  if (!made.has(key)) made.set(key, new Intl.DateTimeFormat(locale, options))
  return made.get(key)!
}

const format = (options: Intl.DateTimeFormatOptions) => (iso: string) =>
  formatter(locale.value, { timeZone: 'UTC', ...options }).format(day(iso))

export const weekday = format({ weekday: 'long' })
export const weekdayShort = format({ weekday: 'short' })
/** A day of the week, Monday = 0: 2024-01-01 was one. */
export const weekdayName = (d: number) => weekdayShort(`2024-01-0${d + 1}`)
export const monthDay = format({ month: 'short', day: 'numeric' })
export const monthYear = format({ month: 'long', year: 'numeric' })
export const longDay = format({ weekday: 'short', month: 'short', day: 'numeric' })
export const fullDay = format({ month: 'short', day: 'numeric', year: 'numeric' })

/** The civil day of a moment in a zone. */
export function civilDay(ms: number, zone?: string): string {
  return formatter('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(ms)
}

/** A moment as a time field takes it, in a site's zone or the device's own: 06:40. */
export function hourMinute(iso: string, zone?: string): string {
  return formatter('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone }).format(new Date(iso))
}

export function clockTime(iso: string, zone?: string): string {
  return formatter(locale.value, { hour: 'numeric', minute: '2-digit', timeZone: zone }).format(new Date(iso))
}

/** A moment as day and time in a zone, the device's own where none is known: Wed, Jul 15, 3:37 PM. */
export function moment(iso: string, zone?: string): string {
  const parts = { weekday: 'short', month: 'short', day: 'numeric', hour: 'numeric', minute: '2-digit' } as const
  return formatter(locale.value, { ...parts, timeZone: zone }).format(new Date(iso))
}

/** Minutes as a person says them. */
export function minutes(value: number): { n: number; unit: 's' | 'min' | 'h' } {
  if (value < 2 - 1 / 120) return { n: Math.max(1, Math.round(value * 60)), unit: 's' }
  return value < 100
    ? { n: value < 10 ? Math.round(2 * value) / 2 : Math.round(value), unit: 'min' }
    : { n: Math.round(value / 6) / 10, unit: 'h' }
}

/** A month's short name, January = 0. */
export const monthShort = (at: number) =>
  formatter(locale.value, { month: 'short', timeZone: 'UTC' }).format(new Date(Date.UTC(2024, at, 15)))

/** "July", of 1 to 12. */
export const monthName = (month: number) =>
  formatter(locale.value, { month: 'long', timeZone: 'UTC' }).format(new Date(Date.UTC(2024, month - 1, 15)))

/** Names in a row as a person says them: a, b and c. */
export const listed = (names: string[]) => new Intl.ListFormat(locale.value, { type: 'conjunction' }).format(names)
