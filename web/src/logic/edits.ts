/** Changes of a layout's drawing by hand, as a list that can be gone back and forth in. What they do is the core's. */
import type { Schema } from '@/api/client'

export type Edit = Schema['EditIO']

/** In whole millimetres: nobody lays tubes finer. */
const mm = (metres: number) => Math.round(metres * 1000) / 1000 + 0

const change = (kind: Edit['kind'], rest: Partial<Edit>): Edit => ({
  kind,
  number: 0,
  x_m: 0,
  y_m: 0,
  flow_l_per_h: 0,
  ...rest,
})

/** Steps of one emitter or tee after another are one change, so that taking it back brings it to where it was taken up. */
export function moved(
  edits: readonly Edit[],
  number: number,
  x_m: number,
  y_m: number,
  kind: 'move' | 'tee' = 'move',
): Edit[] {
  const last = edits[edits.length - 1]
  const before = last?.kind === kind && last.number === number ? edits.slice(0, -1) : edits
  return [...before, change(kind, { number, x_m: mm(x_m), y_m: mm(y_m) })]
}
export const added = (edits: readonly Edit[], x_m: number, y_m: number): Edit[] => [
  ...edits,
  change('add', { x_m: mm(x_m), y_m: mm(y_m) }),
]
export const removed = (edits: readonly Edit[], number: number): Edit[] => [...edits, change('remove', { number })]
export function flowing(edits: readonly Edit[], number: number, flow_l_per_h: number): Edit[] {
  const last = edits[edits.length - 1]
  const before = last?.kind === 'flow' && last.number === number ? edits.slice(0, -1) : edits
  return [...before, change('flow', { number, flow_l_per_h })]
}

/** Onto a circle of the pattern where it is nearly there, else onto whole steps. All in m. */
export function snapped(x: number, y: number, step: number, radii: readonly number[]): [number, number] {
  const away = Math.hypot(x, y)
  const ring = radii.find((radius) => radius > 0 && Math.abs(away - radius) <= step / 2)
  if (ring && away > 0) return [(x / away) * ring, (y / away) * ring]
  return [Math.round(x / step) * step, Math.round(y / step) * step]
}

/** Whether the drawing that the changes are of is another one now: other numbers, other places. */
export function isOther(now: Schema['ChoiceIO'], then: Schema['ChoiceIO']): boolean {
  const same = ['flow_l_per_h', 'compensating', 'bore_mm', 'buried', 'perforated', 'couplers', 'edits']
  return (Object.keys(now) as (keyof Schema['ChoiceIO'])[]).some((key) => !same.includes(key) && now[key] !== then[key])
}
