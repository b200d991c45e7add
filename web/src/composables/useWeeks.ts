/** A week of the plan in words: litres in the steps that are poured, and what there is too little of. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { isUs, text } from '@/units'
import { fixed } from '@/logic/numbers'

type Week = Schema['WeekOut']

export const plannedL = (week: Week) => (isUs.value ? week.chosen_us_l : week.chosen_l)
export const shortL = (week: Week | undefined) => (isUs.value ? week?.short_us_l : week?.short_l) ?? 0

export const hoursOf = (minutes: number) => fixed(minutes / 60, 1)
/** What is shown of it, to be compared: however a place writes its decimals. */
const tenths = (minutes: number) => Number((minutes / 60).toFixed(1))
/** More than the crew has, by what is shown of both: never "1.8 of 1.8, too much". */
export const isOver = (minutes: number, most: number | null | undefined) =>
  typeof most === 'number' && tenths(minutes) > tenths(most)

export function useWeeks() {
  const { t } = useI18n()
  const litres = (value: number | null) => (value === null ? t('drought.noLimit') : text('volume', value, 0))
  const hours = (minutes: number | null) =>
    minutes === null ? t('drought.noLimit') : t('drought.hours', { n: hoursOf(minutes) })
  const short = (week: Week | undefined) =>
    week?.short_of.map((what) =>
      what === 'water'
        ? t('fortnight.short.water', {
            chosen: litres(plannedL(week)),
            allowed: litres(week.allowed_l),
            wanted: litres(week.wanted_l),
          })
        : t('fortnight.short.hours', {
            chosen: hours(week.chosen_min),
            allowed: hours(week.allowed_min),
            wanted: hours(week.wanted_min),
          }),
    ) ?? []
  return { litres, hours, short }
}
