import { describe, expect, it } from 'vitest'
import {
  barHeight,
  cellWidth,
  cellX,
  dayAt,
  line,
  lineY,
  paint,
  type Colours,
  type RowDrawn,
} from '@/drawing/fortnight'
import { within } from './within'
import { useOrderWords } from '@/composables/useOrderWords'
import { isOver, plannedL, shortL, useWeeks } from '@/composables/useWeeks'
import { system } from '@/units'

const FRAME = { width: 1136, names: 232, days: 14, row: 56 }

describe('the fortnight', () => {
  it('finds the day under each cell, none over the names', () => {
    for (let day = 0; day < 14; day++) expect(dayAt(FRAME, cellX(FRAME, day) + cellWidth(FRAME) / 2)).toBe(day)
    expect(dayAt(FRAME, 10)).toBeNull()
    expect(dayAt(FRAME, FRAME.width + 1)).toBeNull()
  })

  it('hangs the line lower the drier a tree is, within its row', () => {
    const points = line(FRAME, 100, 0, [0.2, 0.6, 1.4])
    expect(points[0]).toEqual({ x: FRAME.names, y: 101 })
    expect(points[1]!.y).toBeLessThan(points[2]!.y)
    expect(points[3]!.y).toBe(lineY(FRAME, 100, 1))
    expect(points[3]!.y).toBeLessThan(100 + FRAME.row)
  })

  it('gives the largest visit of a tree the tallest bar, and the smallest one that can be seen', () => {
    expect(barHeight(FRAME, 30, 30)).toBeGreaterThan(barHeight(FRAME, 15, 30))
    expect(barHeight(FRAME, 0.1, 30)).toBeGreaterThanOrEqual(5)
  })

  it('writes every visit of the days shown, the wait, and nothing of other days', () => {
    const written: string[] = []
    const ctx = new Proxy({} as Record<string, unknown>, {
      get: (of, name) =>
        name === 'fillText'
          ? (words: string) => written.push(words)
          : name === 'measureText'
            ? () => ({ width: 20 })
            : (of[name as string] ?? (() => undefined)),
      set: (of, name, value) => ((of[name as string] = value), true),
    }) as unknown as CanvasRenderingContext2D
    const visit = (day: number, words: string) => ({
      day,
      litres: 5,
      words,
      pinned: false,
      done: false,
      skipped: false,
    })
    const row: RowDrawn = {
      now: 0.2,
      dryness: Array<number>(14).fill(0.3),
      limit: 0.5,
      visits: [visit(1, '5'), visit(9, '7')],
      forbidden: [3],
      waits: 'waits',
      hurts: true,
      bent: null,
    }
    const colours = Object.fromEntries(
      ['ink', 'soft', 'root', 'soil', 'water', 'paper', 'ground', 'hair', 'warning', 'edge', 'font'].map((n) => [
        n,
        '#000',
      ]),
    ) as unknown as Colours
    const sheet = { rows: [row], first: 0, outlook: 7, closed: Array<boolean>(14).fill(false) }
    paint(ctx, { ...FRAME, days: 7 }, sheet, colours)
    expect(written.sort()).toEqual(['5', '▲ waits'])
    written.length = 0
    paint(ctx, { ...FRAME, days: 7 }, { ...sheet, first: 7 }, colours)
    expect(written).toEqual(['7'])
  })
})

describe('an order in words', () => {
  it('tells days, hours past midnight, litres in the units shown and who is exempt', async () => {
    const order = {
      id: '1',
      name: 'Stage 3',
      stage: 3,
      first_day: '2026-07-01',
      last_day: null,
      rules: {
        weekdays: [3, 6],
        windows: [['18:00', '24:00']],
        methods: null,
        event_l: 60,
        exempt: [{ methods: ['bag'], planted_within_days: 365, water: null, rules: ['weekdays'] }],
      },
      week_l: 4600,
      closes_yards: false,
      words: '',
      link: '',
      sites: [],
      in_force: true,
      today: '2026-07-15',
      withdrawn: false,
      version: 1,
    } as Parameters<ReturnType<typeof useOrderWords>['rules']>[0]
    const { found: told } = await within(() => useOrderWords().rules(order))
    expect(told[0]).toBe('Only on Wednesday and Saturday.')
    expect(told[1]).toContain('midnight')
    expect(told.some((words) => /\d\s?(gal|L)/.test(words))).toBe(true)
    expect(told.at(-1)).toContain('slow-release bag, trees planted within 365 days')
  })
})

describe('a week of the plan', () => {
  const week = {
    first_day: '2026-07-15',
    wanted_l: 6000,
    wanted_min: 1600,
    allowed_l: 4600,
    allowed_min: 1470,
    chosen_l: 4550,
    chosen_us_l: 4580,
    chosen_min: 1000,
    short_l: 1450,
    short_us_l: 1420,
    short_of: ['water'],
  } as Parameters<typeof plannedL>[0]

  const plain = (words: string) => words.replace(/\s/g, ' ')

  it('names what is short, in the units and steps shown', async () => {
    const { found: words } = await within(() => useWeeks())
    system.value = 'us'
    expect(words.short(week).map(plain)).toEqual([
      'Water is short: 1,210 gal of the 1,215 gal allowed this week; the trees want 1,585 gal.',
    ])
    system.value = 'metric'
    expect([plannedL(week), shortL(week)]).toEqual([4550, 1450])
    expect(plain(words.short({ ...week, short_of: ['hours'] })[0]!)).toContain("16.7 h of the crews' 24.5 h")
    expect(words.short({ ...week, short_of: [] })).toEqual([])
    expect(words.litres(null)).toBe('no limit')
  })

  it('is over the hours only where the figures shown say so', () => {
    expect(isOver(109, 105)).toBe(false) // 1.8 of 1.8
    expect(isOver(112, 105)).toBe(true) // 1.9 of 1.8
    expect(isOver(500, null)).toBe(false)
  })
})
