/** Numbers as a person reads them, by where they are read; and what was typed into plain fields, on its way out. */
import { locale } from '@/i18n/language'

const made = new Map<string, Intl.NumberFormat>()

function written(value: number, least: number, most: number): string {
  const key = `${locale.value} ${least} ${most}`
  if (!made.has(key))
    // making one is slow: each is made once
    made.set(key, new Intl.NumberFormat(locale.value, { minimumFractionDigits: least, maximumFractionDigits: most }))
  return made.get(key)!.format(value)
}

/** With so many decimals at most: 1,234.5. */
export const figure = (value: number, places = 0) => written(value, 0, places)
/** With just so many decimals: 0.50. */
export const fixed = (value: number, places: number) => written(value, places, places)
/** As prices are written. */
export const money = (value: number) => fixed(value, 2)
/** A share as a person reads it: 12 %. */
export const percent = (share: number) => `${Math.round(100 * share)}\u00a0%`

/** A number as it is shown, to be typed on: without what parts its thousands where it is read. */
export function ungrouped(shown: string): string {
  const parts = new Intl.NumberFormat(locale.value).formatToParts(1_234_567.8)
  const group = parts.find((part) => part.type === 'group')?.value
  return group ? shown.replaceAll(group, '') : shown
}

/** Empty: nothing. What is no number goes as it was typed, so that the program names the field and nothing is lost. */
export function sent(typed: number | string | null | undefined): number | null {
  const text = String(typed ?? '')
    .trim()
    .replace(',', '.')
  if (text === '') return null
  const value = Number(text)
  return Number.isNaN(value) ? (text as unknown as number) : value
}
