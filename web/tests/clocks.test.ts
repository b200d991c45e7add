import { describe, expect, test } from 'vitest'
import { phase, pouredL, ranMin, type Clock } from '@/logic/clocks'

const MINUTE = 60_000
/** Three goes: 10, 10 and 4 min, 20 min of rest between; 48 L in all. */
const CLOCK: Clock = {
  treeId: 'a',
  tag: 'A-1',
  litres: 48,
  runMin: 24,
  goes: { count: 3, run_min: 10, rest_min: 20, last_min: 4 },
  startedAt: 1_000_000,
}
const at = (min: number) => CLOCK.startedAt + min * MINUTE

describe('a clock of goes and rests', () => {
  test.each([
    [0, 'running', 1, 10],
    [9.99, 'running', 1, 10],
    [10, 'resting', 2, 30],
    [30, 'running', 2, 40],
    [59, 'resting', 3, 60],
    [60, 'running', 3, 64],
    [64, 'over', 3, 64],
    [500, 'over', 3, 64],
  ] as const)('at %d min it is %s, go %d', (min, kind, go, ends) => {
    expect(phase(CLOCK, at(min))).toEqual({ kind, go, endsAt: at(ends), offAt: at(64) })
  })
  test('rests pour nothing', () => {
    expect([0, 10, 30, 35, 60, 64, 99].map((min) => ranMin(CLOCK, at(min)))).toEqual([0, 10, 10, 15, 20, 24, 24])
    expect(pouredL(CLOCK, at(30))).toBeCloseTo(20)
    expect(pouredL(CLOCK, at(99))).toBeCloseTo(48)
  })
  test('a phone whose clock is behind has poured nothing', () => {
    expect(ranMin(CLOCK, at(-5))).toBe(0)
    expect(phase(CLOCK, at(-5)).kind).toBe('running')
  })
  test('what runs never shrinks, and never ends before its phase says so', () => {
    let last = 0
    for (let min = 0; min < 80; min += 0.5) {
      const ran = ranMin(CLOCK, at(min))
      expect(ran).toBeGreaterThanOrEqual(last)
      expect(ran === 24).toBe(phase(CLOCK, at(min)).kind === 'over')
      last = ran
    }
  })
})
