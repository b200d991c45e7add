/** Routines: what is sent of each, and seasons drawn under the soil line. */
import { describe, expect, test } from 'vitest'
import { FIGURES, hanging, marks, sent, type Routine } from '@/logic/routines'

const WHOLE = {
  litres: 12,
  every_days: 3,
  mm: 38,
  flow_l_per_h: 40,
  hours: 2.5,
  dry_limit: 0.65,
}
const NAMES = Object.keys(FIGURES) as Routine['name'][]

describe('a routine as it is sent', () => {
  test.each(NAMES)('%s: its own figures and no other', (name) => {
    const body = sent({ name, ...WHOLE } as Routine)
    expect(Object.keys(body).sort()).toEqual(['name', ...FIGURES[name]].sort())
    for (const figure of FIGURES[name]) expect(body[figure]).toBe(WHOLE[figure])
  })
  test('the balance and no water at all have nothing to set', () => {
    expect([FIGURES.balance, FIGURES.none]).toEqual([[], []])
  })
})

const AREA = { left: 40, width: 300, top: 20, height: 100 }
const points = (path: string) =>
  path
    .slice(1)
    .split('L')
    .map((pair) => pair.split(' ').map(Number) as [number, number])

describe('a season under the soil line', () => {
  test('full hangs at the line, the deepest at the foot, a day a step', () => {
    const drawn = points(hanging([0, 0.4, 0.8], AREA, 0.8))
    expect(drawn.map(([, y]) => y)).toEqual([20, 70, 120])
    expect(drawn.map(([x]) => x)).toEqual([140, 240, 340])
  })
  test('what is drier than the deepest stays inside', () => {
    expect(points(hanging([2], AREA, 0.8))[0]![1]).toBe(120)
  })
  test('long seasons are marked by the month, short ones by the week', () => {
    const days = (first: string, n: number) =>
      Array.from({ length: n }, (_, i) => new Date(Date.parse(first) + i * 864e5).toISOString().slice(0, 10))
    const year = days('2026-01-01', 365)
    expect(marks(year).map((i) => year[i]!.slice(8))).toEqual(Array(12).fill('01'))
    expect(marks(days('2026-07-15', 15))).toEqual([0, 7, 14])
    expect(marks([])).toEqual([])
  })
})
