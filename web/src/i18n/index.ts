/** All interface text lives in messages, one file a language; dated tasks in one that the server's calendars read too. */
import { createI18n } from 'vue-i18n'
import { text, type Dimension } from '@/units'
import tasks from '@words/care.en.json'
import own from './en.json'

const en = { ...own, task: tasks }
/** Quantities in messages stand as ⟦dimension SI-value digits⟧ and come out in the units shown. */
const MEASURE = /⟦(\w+) ([\d.]+) (\d)⟧/g
const measured = (words: string) =>
  words.replace(MEASURE, (_, dimension, si, digits) => text(dimension as Dimension, Number(si), Number(digits)))

export const i18n = createI18n({
  legacy: false,
  locale: 'en',
  fallbackLocale: 'en',
  messages: { en },
  postTranslation: (words) => (typeof words === 'string' ? measured(words) : words),
})
