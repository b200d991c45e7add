/** A tree's fields as the core declares them: unit, limits, choices, longest words, usual values, what rests on each. */
import fields from '@/api/treeFields.json'
import type { Wrong } from '@/api/client'

export type TreeFieldName = keyof typeof fields

interface TreeField {
  unit: string
  above: number | null
  low: number | null
  high: number | null
  choices: string[]
  named: (string | number)[][]
  longest: number | null
  usual: string | number | null
  rests: string
}

export const TREE_FIELDS: Record<TreeFieldName, TreeField> = fields

/** What is wrong with a measure before it is sent, as the API would say it; undefined where nothing is. */
export function wrongMeasure(name: TreeFieldName, value: number | null): Wrong | undefined {
  const { above, low, high } = TREE_FIELDS[name]
  if (value === null) return undefined
  if (above !== null && value <= above) return { rule: 'above', limit: above, detail: '' }
  if (low !== null && value < low) return { rule: 'at_least', limit: low, detail: '' }
  if (high !== null && value > high) return { rule: 'at_most', limit: high, detail: '' }
  return undefined
}
