/** All interface text lives in messages, one file a language; dated tasks in one that the server's calendars read too. */
import type { Language as Dialogs } from 'element-plus/es/locale'
import { shallowRef } from 'vue'
import { createI18n } from 'vue-i18n'
import { text, type Dimension } from '@/units'
import tasks from '@words/care.en.json'
import own from './en.json'
import { keepLanguage, type Language } from './language'

const en = { ...own, task: tasks }
/** Quantities in messages stand as ⟦dimension SI-value digits⟧ and come out in the units shown. */
const MEASURE = /⟦(\w+) ([\d.]+) (\d)⟧/g
const measured = (words: string) =>
  words.replace(MEASURE, (_, dimension, si, digits) => text(dimension as Dimension, Number(si), Number(digits)))

export const i18n = createI18n({
  legacy: false,
  locale: 'en' as Language,
  fallbackLocale: 'en',
  messages: { en } as Record<Language, typeof en>,
  postTranslation: (words) => (typeof words === 'string' ? measured(words) : words),
})

/** What dialogs say to screen readers; their own words where it is undefined. */
export const dialogs = shallowRef<Dialogs>()

const LOADED: Record<Language, () => Promise<{ messages: typeof en; of?: Dialogs }>> = {
  en: async () => ({ messages: en }),
  es: async () => {
    const [{ default: own }, { default: task }, { default: of }] = await Promise.all([
      import('./es.json'),
      import('@words/care.es.json'),
      import('element-plus/es/locale/lang/es'),
    ])
    return { messages: { ...own, task }, of }
  },
}

/** Have every page speak a language, from now on and after a restart. */
export async function speak(to: Language) {
  const { messages, of } = await LOADED[to]()
  i18n.global.setLocaleMessage(to, messages)
  i18n.global.locale.value = to
  dialogs.value = of
  keepLanguage(to)
  document.documentElement.lang = to
}
