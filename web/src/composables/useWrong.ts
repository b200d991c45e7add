/** What is wrong with a field, in words: a range is told in the units shown, not in those of the server. */
import { useI18n } from 'vue-i18n'
import type { Wrong } from '@/api/client'
import { text, type Dimension } from '@/units'

export function useWrong() {
  const { t } = useI18n()
  return (wrong: Wrong | undefined, dimension?: Dimension): string => {
    if (wrong === undefined || typeof wrong === 'string') return wrong ?? ''
    const limit = dimension ? text(dimension, wrong.limit, 2) : String(wrong.limit)
    return t(`form.limit.${wrong.rule}`, { limit })
  }
}
