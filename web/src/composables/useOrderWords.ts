/** What an order allows, in a crew's words. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { clockTime, fullDay, listed, weekday } from '@/logic/dates'
import { text } from '@/units'

type Order = Schema['RestrictionOut']

export function useOrderWords() {
  const { t } = useI18n()
  /** 2024-01-01 was a Monday. */
  const dayName = (d: number) => weekday(`2024-01-0${d}`)
  const days = (of: number[]) => (of.length ? listed(of.map(dayName)) : t('drought.rule.noDay'))
  const time = (of: string) => (of === '24:00' ? t('drought.rule.midnight') : clockTime(`2024-01-01T${of}:00Z`, 'UTC'))
  function rules(order: Order): string[] {
    const r = order.rules
    const found: string[] = []
    if (Array.isArray(r.weekdays)) found.push(t('drought.rule.days', { days: days(r.weekdays) }))
    else if (r.weekdays) {
      if (r.weekdays.even) found.push(t('drought.rule.even', { days: days(r.weekdays.even) }))
      if (r.weekdays.odd) found.push(t('drought.rule.odd', { days: days(r.weekdays.odd) }))
    }
    if (r.windows) {
      const told = r.windows.map(([from, to]) => t('drought.rule.span', { from: time(from!), to: time(to!) }))
      found.push(told.length ? t('drought.rule.hours', { hours: listed(told) }) : t('drought.rule.noHour'))
    }
    if (r.methods) found.push(t('drought.rule.methods', { ways: listed(r.methods.map((m) => t(`drought.way.${m}`))) }))
    if (r.event_l != null) found.push(t('drought.rule.event', { amount: text('volume', r.event_l, 0) }))
    if (order.week_l != null) found.push(t('drought.rule.week', { amount: text('volume', order.week_l, 0) }))
    if (order.closes_yards) found.push(t('drought.rule.yards'))
    for (const e of r.exempt ?? []) {
      const who = []
      if (e.methods) who.push(listed(e.methods.map((m) => t(`drought.way.${m}`))))
      if (e.planted_within_days != null) who.push(t('drought.rule.new', { n: e.planted_within_days }))
      if (e.water) who.push(listed(e.water.map((w) => t(`drought.water.${w}`))))
      const from = listed(e.rules.map((rule) => t(`drought.of.${rule}`)))
      found.push(t('drought.rule.exempt', { who: who.join(', ') || t('drought.rule.everyone'), from }))
    }
    return found
  }
  function span(order: Order): string {
    const from = order.first_day ? fullDay(order.first_day) : ''
    const to = order.last_day ? fullDay(order.last_day) : ''
    if (from && to) return t('drought.span.both', { from, to })
    if (from) return t('drought.span.from', { from })
    return to ? t('drought.span.to', { to }) : t('drought.span.open')
  }
  return { rules, span }
}
