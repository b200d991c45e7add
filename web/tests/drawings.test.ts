/** Drawings are to scale: what is twice as wide is drawn twice as wide, and nothing is stretched. */
import { describe, expect, test } from 'vitest'
import type { Schema } from '@/api/client'
import { cutaway } from '@/drawing/cutaway'
import { holeDrawing } from '@/drawing/hole'
import { at, outward, path } from '@/drawing/plan'
import { soilline } from '@/drawing/soilline'

const SECTION = {
  kind: 'balled',
  state: 'fine',
  ball_radius_m: 0.3,
  ball_height_m: 0.36,
  root_radius_m: 0.5,
  ring_radius_m: 0.6,
  near_from_m: 0.3,
  near_radius_m: 0.45,
  root_depth_m: 0.45,
  established_radius_m: 1.5,
  caliper_m: 0.05,
  crown_diameter_m: 1.8,
  mulch_outer_radius_m: 0.9,
  mulch_depth_m: 0.075,
  basin_diameter_m: 0.9,
  basin_depth_m: 0.08,
  ball_available_l: 5,
  ball_holds_l: 20,
  ring_available_l: 15,
  ring_holds_l: 20,
  far_available_l: 10,
  far_holds_l: 20,
} as unknown as Schema['Section']

describe('the cutaway', () => {
  const drawn = cutaway(SECTION, 400, 200, 120, 100)
  test('one scale both ways', () => {
    expect(drawn.ballHalf / SECTION.ball_radius_m).toBeCloseTo(drawn.scale)
    expect(drawn.ballDepth / SECTION.ball_height_m).toBeCloseTo(drawn.scale)
    expect(drawn.nearHalf / SECTION.near_radius_m).toBeCloseTo(drawn.scale)
  })
  test('water that is poured further out is drawn there, not beside the ball', () => {
    expect(drawn.nearFrom).toBe(0)
    const deep = cutaway({ ...SECTION, near_from_m: 0.5, near_radius_m: 0.6 }, 400, 200, 120, 100)
    expect(deep.nearFrom / deep.scale).toBeCloseTo(0.5)
    expect(deep.nearHalf).toBeCloseTo(deep.ringHalf)
  })
  test('it fits its frame at any size', () => {
    for (const [width, below] of [
      [120, 60],
      [400, 200],
      [1200, 300],
    ] as const) {
      const d = cutaway(SECTION, width, below, 120, 100)
      expect(d.ringHalf * 2).toBeLessThanOrEqual(width)
      expect(d.ringDepth).toBeLessThanOrEqual(below)
      expect(d.scale * SECTION.established_radius_m * 2).toBeLessThanOrEqual(width)
    }
  })
  test('fill is the share that is there, from the bottom up', () => {
    expect(drawn.ballFill!.height / drawn.ballDepth).toBeCloseTo(0.25)
    expect(drawn.ringFill!.height / drawn.ringDepth).toBeCloseTo(0.75)
    expect(drawn.farFill!.height / drawn.ringDepth).toBeCloseTo(0.5)
    expect(drawn.ballFill!.y + drawn.ballFill!.height).toBeCloseTo(120 + drawn.ballDepth)
  })
  test('what is over full or under empty stays inside', () => {
    const over = cutaway({ ...SECTION, ball_available_l: 30, ring_available_l: -3 }, 400, 200, 120, 100)
    expect(over.ballFill!.height).toBeCloseTo(over.ballDepth)
    expect(over.ringFill!.height).toBe(0)
  })
  test('where nothing is known nothing is filled', () => {
    const unknown = cutaway({ ...SECTION, ball_available_l: null, ring_available_l: null }, 400, 200, 120, 100)
    expect([unknown.ballFill, unknown.ringFill, unknown.farFill]).toEqual([null, null, null])
  })
})

describe('the hole', () => {
  const sheet = {
    hole: { top_diameter_m: 1.5, base_diameter_m: 0.7, depth_m: 0.33 },
    choice: {
      raise_m: 0.03,
      basin_diameter_m: 0.9,
      ridge_m: 0.08,
      edging_m: 0,
      mulch_depth_m: 0.07,
      support: 'two_posts',
      graft_m: 0.1,
    },
  } as unknown as Schema['PlantingFiguresOut']
  const stock = { kind: 'balled', caliper_m: 0.05, ball_diameter_m: 0.6, ball_height_m: 0.36, flare_below_top_m: 0 }
  const drawn = holeDrawing(sheet, stock, 600, 260, 300)
  test('one scale both ways', () => {
    expect((drawn.top * 2) / 1.5).toBeCloseTo(drawn.scale)
    expect((drawn.base * 2) / 0.7).toBeCloseTo(drawn.scale)
    expect((drawn.floorY - 300) / 0.33).toBeCloseTo(drawn.scale)
    expect((300 - drawn.flareY) / 0.03).toBeCloseTo(drawn.scale)
  })
  test('a graft stands over the flare, two posts stand, level planting has no mound', () => {
    expect(drawn.graftY!).toBeLessThan(drawn.flareY)
    expect(drawn.posts).toHaveLength(2)
    const level = holeDrawing({ ...sheet, choice: { ...sheet.choice, raise_m: 0 } }, stock, 600, 260, 300)
    expect([level.mound, level.flareY]).toEqual([null, 300])
    expect(drawn.mound).not.toBeNull()
  })
})

describe('the plan view', () => {
  const frame = { cx: 100, cy: 80, scale: 50 }
  test('north is up and east is right', () => {
    expect(at(frame, 1, 0)).toEqual([150, 80])
    expect(at(frame, 0, 1)).toEqual([100, 30])
    expect(
      path(
        frame,
        [
          [0, 0],
          [1, 1],
        ],
        true,
      ),
    ).toBe('M100.0 80.0L150.0 30.0Z')
  })
  test('a label stands outward, at its distance', () => {
    const [x, y] = outward(3, 4, 10)
    expect([x, y]).toEqual([6, -8])
    expect(outward(0, 0, 10).map(Math.abs)).toEqual([0, 0])
  })
})

describe('the soil line', () => {
  const days = Array.from({ length: 10 }, (_, i) => ({
    day: `2026-07-${String(10 + i).padStart(2, '0')}`,
    dryness: i === 3 ? null : 0.1 * i,
    rain_mm: i === 2 ? 12 : 0,
    planned_l: i === 6 ? 33 : 0,
  })) as unknown as Schema['ChartDay'][]
  const frame = { width: 500, above: 120, below: 100, left: 40, right: 10 }
  const drawn = soilline(
    days,
    '2026-07-15',
    0.5,
    frame,
    (d) => d.planned_l ?? 0,
    (d) => d.rain_mm ?? 0,
  )
  test('what was felt has room below, wherever the plan is', () => {
    const felt = soilline(
      days,
      '2026-07-15',
      0.5,
      frame,
      () => 0,
      () => 0,
      [0.9],
    )
    expect(felt.y(0.9)).toBeLessThanOrEqual(felt.bottom - 5)
    expect(felt.limitY).toBeLessThan(drawn.limitY)
  })
  test('axes end on round figures that hold all days', () => {
    expect([drawn.mostWater, drawn.mostRain]).toEqual([40, 20])
    expect(drawn.up(33, drawn.mostWater)).toBeLessThanOrEqual(frame.above)
  })
  test('drier hangs lower, and the limit lies between', () => {
    expect(drawn.y(0)).toBe(frame.above)
    expect(drawn.y(0.4)).toBeLessThan(drawn.limitY)
    expect(drawn.y(0.6)).toBeGreaterThan(drawn.limitY)
    expect(drawn.bottom).toBeGreaterThanOrEqual(drawn.y(0.9))
  })
  test('today parts what was from what comes', () => {
    expect(drawn.at).toBe(5)
    expect(drawn.todayX).toBeCloseTo(40 + 5 * 45)
  })
})
