import { describe, expect, it } from 'vitest'
import { at, placeAt, placeToward, toward } from '@/drawing/plan'
import { added, isOther, moved, removed, snapped } from '@/logic/edits'

const CHOICE = { pattern: 'ring', radius_m: 0.4, flow_l_per_h: 4, edits: [] } as never

describe('changes by hand', () => {
  it('takes steps of one emitter together, those of another apart', () => {
    const once = moved(moved([], 2, 0.1, 0), 2, 0.2, 0)
    expect(once).toHaveLength(1)
    expect(once[0]).toMatchObject({ kind: 'move', number: 2, x_m: 0.2 })
    expect(moved(once, 3, 0, 0)).toHaveLength(2)
    expect(moved(removed(once, 1), 2, 0, 0)).toHaveLength(3)
    expect(moved([], 2, 9.3e-17, -1.52399)[0]).toMatchObject({ x_m: 0, y_m: -1.524 })
    expect(added([], 0.1, 0.2)[0]).toMatchObject({ kind: 'add', x_m: 0.1, y_m: 0.2 })
  })

  it('snaps onto a circle of the pattern, else onto whole steps', () => {
    const [x, y] = snapped(0.29, 0.3, 0.1, [0.4])
    expect(Math.hypot(x, y)).toBeCloseTo(0.4)
    expect(x / y).toBeCloseTo(0.29 / 0.3)
    expect(snapped(0.94, -0.16, 0.1, [0.4]).map((v) => v.toFixed(2))).toEqual(['0.90', '-0.20'])
  })

  it('knows measures that make another drawing from those that do not', () => {
    const other = (change: object) => isOther({ ...(CHOICE as object), ...change } as never, CHOICE)
    expect(other({ radius_m: 0.5 })).toBe(true)
    expect(other({ flow_l_per_h: 8 })).toBe(false)
  })

  it('finds the place that is drawn at a pixel, and the other way round', () => {
    const frame = { cx: 100, cy: 100, scale: 50 }
    const [left, top] = at(frame, 0.6, -0.2)
    expect(placeAt(frame, left, top).map((v) => v.toFixed(6))).toEqual(['0.600000', '-0.200000'])
    const { away, bearing } = toward(0.6, -0.2)
    expect(placeToward(away, bearing).map((v) => v.toFixed(6))).toEqual(['0.600000', '-0.200000'])
    expect(toward(1, 0).bearing).toBeCloseTo(90)
  })
})
