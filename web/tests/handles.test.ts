import { describe, expect, it } from 'vitest'
import { handlesOf, held, measureOf, nudged, withMeasure, type Handle, type Measures, type Part } from '@/logic/handles'

const choice = (change: object) =>
  ({
    pattern: 'ring_arms',
    radius_m: 0.4,
    inner_radius_m: 0.2,
    arms: 4,
    arm_reach_m: 0.8,
    offset_m: 0.2,
    feed_bearing_deg: 90,
    flow_l_per_h: 4,
    edits: [],
    ...change,
  }) as never
const PAVING = { kind: 'paving', bearing_deg: 90, distance_m: 1.2, across_m: 0 } as const
const POST = { kind: 'post', bearing_deg: 0, distance_m: 0.5, across_m: 0.2 } as const
const now = (change = {}): Measures => ({ choice: choice(change), obstacles: [{ ...PAVING }, { ...POST }] })
const look = (change = {}) =>
  ({
    choice: choice(change),
    emitters: [{ x_m: 0, y_m: 0.4 }],
    fittings: [],
    runs: [
      {
        kind: 'line',
        path: [
          [0.2, -2],
          [0.2, 2],
        ],
      },
    ],
  }) as never
const parts = (found: Handle[]) => found.map((h) => h.part)
const one = (part: Part, at = 0, change = {}) =>
  handlesOf(look(change), now().obstacles, false, 3).find((h) => h.part === part && h.at === at)!

describe('what can be taken in hand', () => {
  it('is what the pattern has, and what stands within the drawing', () => {
    expect(parts(handlesOf(look(), now().obstacles, false, 3))).toEqual(['radius', 'reach', 'feed', 'beside', 'beside'])
    expect(parts(handlesOf(look(), now().obstacles, true, 1))).toEqual(['radius', 'reach', 'beside'])
    expect(parts(handlesOf(look({ pattern: 'two_rings' }), [], false, 3))).toEqual(['radius', 'inner', 'feed'])
    expect(parts(handlesOf(look({ pattern: 'row_lines' }), [], true, 3))).toEqual(['offset'])
  })

  it('lies where its measure says, so that putting it down where it lies changes nothing', () => {
    for (const handle of [...handlesOf(look(), now().obstacles, false, 3), one('offset', 0, { pattern: 'row_lines' })])
      expect(held(handle, handle.x, handle.y, 0.001, now())).toEqual(now())
  })

  it('goes in whole steps, a thing beside the tree to any side', () => {
    expect(held(one('radius'), 0.33, 0.3, 0.1, now()).choice).toMatchObject({ radius_m: 0.4, arm_reach_m: 0.8 })
    expect(held(one('radius'), 0.5, 0, 0.1, now()).choice).toMatchObject({ radius_m: 0.5, arm_reach_m: 0.9 })
    expect(held(one('beside'), 0.6, 0.8, 0.1, now()).obstacles[0]).toMatchObject({ distance_m: 1, bearing_deg: 37 })
    expect(held(one('beside', 1), 0, -0.9, 0.1, now()).obstacles[1]).toMatchObject({
      distance_m: 0.8,
      bearing_deg: 180,
    })
    expect(held(one('offset', 0, { pattern: 'row_lines' }), -0.31, 1.7, 0.1, now()).choice.offset_m).toBeCloseTo(0.3)
  })

  it('goes by keys as far each time, wherever it lies', () => {
    expect(nudged(one('radius'), 0, 1, 0.1, now()).choice.radius_m).toBeCloseTo(0.5)
    expect(nudged(one('reach'), -1, 0, 0.1, now()).choice.arm_reach_m).toBeCloseTo(0.7)
    expect(nudged(one('feed'), 1, 0, 0.1, now()).choice.feed_bearing_deg).toBe(95)
    expect(nudged(one('feed'), 0, 1, 0.1, now({ feed_bearing_deg: 2 })).choice.feed_bearing_deg).toBe(357)
    expect(measureOf(one('beside'), nudged(one('beside'), -1, 0, 0.1, now())).away).toBeCloseTo(1.1)
  })

  it('takes what is typed as it is', () => {
    expect(withMeasure(one('radius'), 0.437, 0, now()).choice.radius_m).toBe(0.437)
    expect(withMeasure(one('beside'), 1.23, 400, now()).obstacles[0]).toMatchObject({
      distance_m: 1.23,
      bearing_deg: 40,
    })
  })
})
