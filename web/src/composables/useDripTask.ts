/** What a task of a layout asks for, in words with its lengths and counts. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { listed } from '@/logic/dates'
import { text } from '@/units'

export function useDripTask() {
  const { t } = useI18n()
  function task(one: Schema['DripTask']): string {
    return t(`drip.task.${one.kind}`, {
      from: text('small', one.from_m, 0),
      to: text('small', one.to_m, 0),
      tube: text('large', one.tube_m, 1),
      couplers: one.couplers,
      emitters: one.emitters,
      arms: one.arms,
      count: one.count,
      numbers: listed(one.numbers.map(String)),
    })
  }
  return { task }
}
