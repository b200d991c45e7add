/** What is wrong with a field, in words: a range, or another person's value, is told in the units shown. */
import { useI18n } from 'vue-i18n'
import type { Wrong } from '@/api/client'
import { text, type Dimension } from '@/units'

export function useWrong() {
  const { t } = useI18n()
  const value = (given: unknown, dimension?: Dimension) =>
    given === null || given === ''
      ? t('common.none')
      : dimension && typeof given === 'number'
        ? text(dimension, given, 2)
        : String(given)
  return (wrong: Wrong | undefined, dimension?: Dimension): string => {
    if (wrong === undefined || typeof wrong === 'string') return wrong ?? ''
    return 'rule' in wrong
      ? t(`form.limit.${wrong.rule}`, { limit: value(wrong.limit, dimension) })
      : t('form.theirs', { value: value(wrong.theirs, dimension) })
  }
}
