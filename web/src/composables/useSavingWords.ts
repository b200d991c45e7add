/** What a change saves and takes, in words; prices of parts in the unit that is shown. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { show, system, text, unitLabel } from '@/units'
import { fixed, money } from '@/logic/numbers'

export const PRICED = ['bag', 'box', 'emitter', 'tube_m', 'mulch_m3'] as const
type Part = (typeof PRICED)[number]

/** How much of the stored unit is one of the shown: a foot of tube, a cubic yard of mulch. */
const US_UNIT: Partial<Record<Part, number>> = { tube_m: 0.3048, mulch_m3: 0.764554857984 }
const unitOf = (name: Part) => (system.value === 'us' ? (US_UNIT[name] ?? 1) : 1)
export const priceShown = (name: Part, price: number | null) =>
  price === null ? null : Number((price * unitOf(name)).toFixed(2))
export const priceOf = (name: Part, typed: number) => typed / unitOf(name)

const HOUR_MIN = 60

export function useSavingWords() {
  const { t } = useI18n()
  const time = (minutes: number) =>
    minutes < 2 * HOUR_MIN
      ? t('saving.min', { n: Math.round(minutes) })
      : t('saving.hours', { n: fixed(minutes / HOUR_MIN, 1) })
  /** "31 to 38 gal" of the seasons that were looked at. */
  const span = (of: { low_l: number; high_l: number }) => {
    const low = show('volume', of.low_l, 0).value
    const high = show('volume', of.high_l, 0).value
    if (of.low_l < 0) return t('saving.upTo', { high: text('volume', of.high_l, 0) })
    return low === high ? text('volume', of.high_l, 0) : t('saving.span', { low, high, unit: unitLabel('volume') })
  }
  const partsOf = (parts: Schema['PartsOut']) => {
    const found: string[] = []
    for (const name of ['bag', 'box', 'emitter'] as const) {
      const n = Math.round(parts[name])
      if (n > 0) found.push(t(`saving.part.${name}`, { n }, n))
    }
    if (parts.tube_m > 0) found.push(t('saving.part.tube', { length: text('large', parts.tube_m, 0) }))
    if (parts.mulch_m3 > 0) found.push(t('saving.part.mulch', { volume: text('bulk', parts.mulch_m3 * 1000, 0) }))
    return found
  }
  /** What it takes once: minutes, parts, money where it is known. */
  function takes(minutes: number, parts: Schema['PartsOut'], cost: number | null): string {
    const needs = [minutes > 0 ? time(minutes) : '', ...partsOf(parts)].filter(Boolean)
    if (!needs.length) return ''
    const words = t('saving.takes', { what: needs.join(', ') })
    return cost === null ? words : t('saving.takesCost', { words, cost: money(cost) })
  }
  function pays(of: { pays_days: number | null; measure: string }): string {
    if (of.measure === 'other_water') return t('saving.asksSupplier')
    if (of.pays_days === null) return t('saving.neverPays')
    const days = Math.ceil(of.pays_days)
    return days > 730 ? t('saving.paysLate') : t('saving.pays', { n: days }, days)
  }
  function weekly(minutes: number): string {
    const n = Math.round(Math.abs(minutes))
    if (n < 1) return ''
    return minutes > 0 ? t('saving.less', { time: time(n) }) : t('saving.more', { time: time(n) })
  }
  return { span, takes, pays, weekly, time: (of: { minutes: number }) => time(of.minutes) }
}
