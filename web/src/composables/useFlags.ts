/** What is wrong with a watering, in words with its measures. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { text } from '@/units'

export function useFlags() {
  const { t } = useI18n()
  return (flag: string, advice: Schema['Advice']) =>
    t(`flag.${flag}`, {
      reach: `${Math.round(100 * advice.reach)} %`,
      widen: text('large', advice.widen_to_m ?? 0),
      narrow: text('large', advice.narrow_to_m ?? 0),
      litres: text('volume', advice.narrow_l ?? 0),
    })
}
