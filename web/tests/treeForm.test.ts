import { describe, expect, test } from 'vitest'
import type { Schema } from '@/api/client'
import { blankTree, formToTree, treeToForm, watersOtherwise } from '@/logic/treeForm'
import { TREE_FIELDS } from '@/logic/treeFields'

/** A stored tree as the form's own sending would store it. */
function stored(changed: Partial<ReturnType<typeof blankTree>>): Schema['TreeOut'] {
  const form = { ...blankTree(), site_id: 's', tag: 'A-1', plant_id: 'p', planted_on: '2026-05-01', ...changed }
  return { ...formToTree(form, false, '2026-07-15'), plant: { id: 'p' }, version: 3 } as unknown as Schema['TreeOut']
}
const METHODS = TREE_FIELDS.method.choices as ReturnType<typeof blankTree>['method'][]

describe('a tree and its form', () => {
  test.each(METHODS)('%s: opened and saved untouched it stays what it was', (method) => {
    const row = stored({ method, mulch_material: 'wood_chips', mulch_depth_m: 0.07, mulch_outer_radius_m: 0.8 })
    const again = formToTree(treeToForm(row), false, '2026-08-01')
    const same = Object.fromEntries(Object.keys(again).map((key) => [key, row[key as keyof typeof row]]))
    expect({ ...again, plant_id: 'p' }).toEqual({ ...same, plant_id: 'p' })
    expect(watersOtherwise(treeToForm(row), row)).toBe(false)
  })
  test.each(METHODS)('%s: measures of another way are not sent along', (method) => {
    const sent = formToTree({ ...blankTree(), method }, false, null)
    const own = {
      emitters: sent.emitter_count,
      soaker: sent.soaker_across_m,
      sprinkler: sent.sprinkler_across_m,
      wicked: sent.reservoir_l,
    }
    for (const [name, value] of Object.entries(own)) expect(Boolean(value)).toBe(name === method)
  })
  test('another way of pouring is seen as one, another note is not', () => {
    const row = stored({ method: 'hose' })
    expect(watersOtherwise({ ...treeToForm(row), method: 'bag' }, row)).toBe(true)
    expect(watersOtherwise({ ...treeToForm(row), basin_diameter_m: 1.4 }, row)).toBe(true)
    expect(watersOtherwise({ ...treeToForm(row), note_for_crew: 'mind the dog' }, row)).toBe(false)
  })
  test('without a material nothing of a mulch ring is sent', () => {
    const sent = formToTree({ ...blankTree(), mulch_depth_m: 0.07, mulch_outer_radius_m: 0.9 }, false, '2026-07-15')
    expect([sent.mulch_depth_m, sent.mulch_outer_radius_m, sent.mulch_measured_on]).toEqual([0, null, null])
  })
  test('how it feels is asked of trees that stand already', () => {
    const felt = { ...blankTree(), feel_ball: 'dry', feel_ring: 'moist' }
    expect(formToTree(felt, true, null).feel).toEqual({ ball: 'dry', ring: 'moist' })
    expect(formToTree(felt, false, null).feel).toBeNull()
    expect(formToTree({ ...felt, feel_ring: '' }, true, null).feel).toBeNull()
  })
  test('a new tree begins within the limits of its fields', () => {
    const blank = blankTree() as Record<string, unknown>
    for (const [name, field] of Object.entries(TREE_FIELDS)) {
      const value = blank[name]
      if (typeof value !== 'number') continue
      if (field.low !== null && field.low !== undefined) expect(value, name).toBeGreaterThanOrEqual(field.low)
      if (field.high !== null && field.high !== undefined) expect(value, name).toBeLessThanOrEqual(field.high)
    }
  })
})
