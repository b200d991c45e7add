import { expect, test } from 'vitest'
import { clockTime, daysBetween, fullDay, hourMinute, minutes, weekday } from '@/logic/dates'

test('a civil day is the same day in every zone', () => {
  expect([weekday('2026-07-15'), fullDay('2026-01-01')]).toEqual(['Wednesday', 'Jan 1, 2026'])
  expect(fullDay('2026-07-15T23:59:00-06:00')).toBe('Jul 15, 2026')
})

test('days between, over the turn of a clock and a leap day', () => {
  expect(daysBetween('2026-03-07', '2026-03-09')).toBe(2)
  expect(daysBetween('2028-02-28', '2028-03-01')).toBe(2)
  expect(daysBetween('2026-07-15', '2026-07-01')).toBe(-14)
})

test('a moment is told in the site’s zone', () => {
  expect(hourMinute('2026-07-15T12:40:00Z', 'America/Denver')).toBe('06:40')
  expect(hourMinute('2026-07-15T06:05:00Z', 'America/Denver')).toBe('00:05')
  expect(clockTime('2026-07-15T12:40:00Z', 'America/Denver')).toMatch(/^6:40\sAM$/)
})

test.each([
  [0.2, 12, 's'],
  [0.001, 1, 's'],
  [1.5, 90, 's'],
  [1.999, 2, 'min'],
  [2.3, 2.5, 'min'],
  [12.4, 12, 'min'],
  [99.4, 99, 'min'],
  [150, 2.5, 'h'],
])('%d min is told as %d %s', (value, n, unit) => {
  expect(minutes(value)).toEqual({ n, unit })
})
