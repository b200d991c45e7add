/** What each soil test reads: fields in the order in which they are taken. Checked against the API's own types. */
import type { Schema } from '@/api/client'
import { isUs, type Dimension } from '@/units'

export type TestKind = Schema['SoilTestOut']['kind']

export type Field =
  | { name: string; as: 'quantity'; dimension: Dimension; needed: boolean; start?: number }
  | { name: string; as: 'percent'; needed: boolean }
  | { name: string; as: 'minutes'; needed: true }
  | { name: string; as: 'moment' }
  | { name: string; as: 'picture'; words: readonly string[] }
  | { name: string; as: 'word'; words: readonly string[] }

export interface SoilTestKind {
  kind: TestKind
  /** How many steps the messages have for it. */
  steps: number
  fields: Field[]
}

const small = (name: string, needed = true, start?: number): Field => ({
  name,
  as: 'quantity',
  dimension: 'small',
  needed,
  start,
})
/** A spade's width, round in the units shown. */
const HOLE_M = 0.3
const MAKEUP: Field[] = [
  { name: 'organic_percent', as: 'percent', needed: false },
  { name: 'packing', as: 'word', words: ['loose', 'usual', 'firm', 'compacted'] },
]

export const SOIL_TESTS: SoilTestKind[] = [
  {
    kind: 'crumble',
    steps: 3,
    fields: [
      { name: 'found', as: 'picture', words: ['crumbles', 'sticky', 'powder'] },
      { name: 'rain_before_mm', as: 'quantity', dimension: 'rain', needed: false },
    ],
  },
  {
    kind: 'clump',
    steps: 2,
    fields: [{ name: 'found', as: 'picture', words: ['falls_apart', 'holds', 'modelling_clay'] }],
  },
  {
    kind: 'ribbon',
    steps: 3,
    fields: [
      { name: 'ribbon', as: 'picture', words: ['no_ball', 'no_ribbon', 'short', 'medium', 'long'] },
      { name: 'pinch', as: 'picture', words: ['gritty', 'neither', 'smooth'] },
    ],
  },
  {
    kind: 'jar',
    steps: 4,
    fields: [
      small('sand_top_m'),
      small('silt_top_m'),
      small('clay_top_m'),
      { name: 'shaken_at', as: 'moment' },
      { name: 'sand_at', as: 'moment' },
      { name: 'silt_at', as: 'moment' },
      { name: 'clay_at', as: 'moment' },
      ...MAKEUP,
    ],
  },
  {
    kind: 'percentages',
    steps: 2,
    fields: [
      { name: 'sand_percent', as: 'percent', needed: true },
      { name: 'silt_percent', as: 'percent', needed: true },
      { name: 'clay_percent', as: 'percent', needed: true },
      ...MAKEUP,
    ],
  },
  {
    kind: 'drain_hole',
    steps: 4,
    fields: [
      small('first_depth_m'),
      small('last_depth_m'),
      { name: 'minutes', as: 'minutes', needed: true },
      small('across_m', true, HOLE_M),
    ],
  },
  { kind: 'infiltration', steps: 3, fields: [small('fallen_m'), { name: 'minutes', as: 'minutes', needed: true }] },
  { kind: 'hardpan', steps: 2, fields: [small('depth_m')] },
]

export const testKind = (kind: string) => SOIL_TESTS.find((s) => s.kind === kind)

/** Values of an API's reading as the form keeps them, all empty. */
export function blank(of: SoilTestKind): Record<string, number | string | null> {
  return Object.fromEntries(
    of.fields.map((f) => [
      f.name,
      f.as === 'quantity' ? (f.start === HOLE_M && isUs.value ? 0.3048 : (f.start ?? null)) : '',
    ]),
  )
}

/** The reading as the API takes it; moments are civil times of this device. */
export function reading(of: SoilTestKind, form: Record<string, unknown>): Schema['SoilTestIn']['reading'] {
  const own: Record<string, unknown> = { kind: of.kind }
  for (const f of of.fields) {
    const value = form[f.name]
    if (value === '' || value === null || value === undefined) continue
    own[f.name] =
      f.as === 'moment'
        ? new Date(String(value)).toISOString()
        : f.as === 'percent' || f.as === 'minutes'
          ? Number(String(value).replace(',', '.'))
          : value
  }
  return own as Schema['SoilTestIn']['reading']
}

export function complete(of: SoilTestKind, form: Record<string, unknown>): boolean {
  return of.fields.every((f) => {
    const value = form[f.name]
    const empty = value === '' || value === null || value === undefined
    if (f.as === 'moment' || f.as === 'word') return true
    if (f.as === 'picture')
      return f.name === 'pinch' ? !empty || ['no_ball', 'no_ribbon'].includes(String(form.ribbon)) : !empty
    if (empty) return !f.needed
    return f.as === 'quantity' || Number.isFinite(Number(String(value).replace(',', '.')))
  })
}
