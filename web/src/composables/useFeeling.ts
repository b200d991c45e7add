/** What was felt at a tree, in words, and what the plan says to it: what it was taken for, what it is now, what comes. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { pourOf } from '@/composables/useRound'
import { longDay } from '@/logic/dates'
import { text } from '@/units'
import { fixed } from '@/logic/numbers'

type Page = Schema['WaterPageOut']
export type Felt = NonNullable<Schema['EntryIn']['ball_feel']>
export type How = NonNullable<Schema['EntryIn']['how']>
export type Where = 'ball' | 'ring'
export const FELT: Felt[] = ['dry', 'drying', 'moist', 'wet', 'like_clay']
export const HANDS: How[] = ['finger', 'trowel', 'rod', 'probe']
export const PLACES: readonly Where[] = ['ball', 'ring']
const percent = (share: number) => Math.round(100 * share)

export function useFeeling() {
  const { t } = useI18n()

  type Read = Partial<Pick<Schema['EntryOut'], 'ball_theta' | 'ring_theta'>> & {
    ball_feel?: string | null
    ring_feel?: string | null
  }
  const feltWords = (r: Read) =>
    (['ball', 'ring'] as const)
      .map((where) => {
        const theta = r[`${where}_theta`]
        if (theta !== null && theta !== undefined) return t(`feel.theta.${where}`, { theta: fixed(theta, 2) })
        return r[`${where}_feel`] ? t(`feel.short.${where}`, { felt: t(`feel.${r[`${where}_feel`]}`) }) : ''
      })
      .filter(Boolean)
      .join(', ')

  function comes(page: Page): string {
    if (!page.next) return t('feel.noWater')
    const amount = text('volume', pourOf(page.next).litres)
    return page.next.day === page.today
      ? t('feel.waterToday', { amount })
      : t('feel.waterOn', { amount, day: longDay(page.next.day) })
  }

  /** Why a reading moved the plan so little: it fits within its own error, or counts little; far off, what to do. */
  function told(read: Page['readings'][number], was: number, is: number): string {
    const apart = read.dryness - was
    if (Math.abs(apart) <= read.fits_within) return t('feel.fits')
    if (Math.abs(is - was) >= read.little * Math.abs(apart)) return ''
    const surer = t('feel.surer', { with: t(`feel.hand.${read.how}`) })
    if (Math.abs(apart) <= read.far_beyond) return surer
    return `${surer} ${t(apart > 0 ? 'feel.farDry' : 'feel.farWet')}`
  }

  /** was: how dry the plan took it for before. */
  function answer(was: number, now: Page): string {
    const [before, after] = [percent(was), percent(now.dryness)]
    const moved = before === after ? t('feel.asPlanned', { dry: after }) : t('feel.moved', { was: before, dry: after })
    const read = now.readings.at(-1)
    const why = read ? told(read, was, now.dryness) : ''
    return [moved, why, comes(now)].filter(Boolean).join(' ')
  }

  /** How long nobody has looked, and how far off the plan may be by now. */
  function doubt(page: Page): string {
    const off = percent(2 * page.doubt.dryness_sd)
    if (page.doubt.looked_on) return t('feel.lookedAgo', { n: page.doubt.days, off }, page.doubt.days)
    return t('feel.never', { n: page.doubt.days, off }, page.doubt.days)
  }
  return { feltWords, answer, doubt }
}
