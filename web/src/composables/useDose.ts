/** A dose in words: how much of what, for how long. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { text } from '@/units'

export function useDose() {
  const { t } = useI18n()
  const dose = (d: Schema['DoseOut']) =>
    t(`planting.dose.${d.aid}`, {
      litres: text('volume', d.litres),
      grams: Math.round(d.grams),
      pieces: d.pieces,
      sachets: d.sachets,
      minutes: Math.round(d.minutes),
    })
  return { dose }
}
