/** All interface text lives in messages, one file a language; dated tasks in one that the server's calendars read too. */
import type { Language as Dialogs } from 'element-plus/es/locale'
import { shallowRef } from 'vue'
import { createI18n } from 'vue-i18n'
import { figure } from '@/logic/numbers'
import { text, type Dimension } from '@/units'
import tasks from '@words/care.en.json'
import own from './en.json'
import { keepLanguage, type Language } from './language'

const en = { ...own, task: tasks }
/** Quantities in messages stand as ⟦dimension SI-value digits⟧ and come out in the units shown. */
const MEASURE = /⟦(\w+) ([\d.]+) (\d)⟧/g
const measured = (words: string) =>
  words.replace(MEASURE, (_, dimension, si, digits) => text(dimension as Dimension, Number(si), Number(digits)))

/** A sentence that ends in an hour has one point: 10:00 a.m.; a share and its sign stay on one line. */
const once = (words: string) => words.replace(/([ap]\.\s?m)\.\./g, '$1.').replace(/(\d) %/g, '$1\u00a0%')

export const i18n = createI18n({
  legacy: false,
  locale: 'en' as Language,
  fallbackLocale: 'en',
  messages: { en } as Record<Language, typeof en>,
  postTranslation: (words) => (typeof words === 'string' ? once(measured(words)) : words),
})

interface Trees {
  kinds: Record<string, string>
  sizes: Record<string, string>
}
/** What kinds of tree are called, by their English name; a kind that somebody entered keeps its own. */
const trees = shallowRef<Trees>({ kinds: {}, sizes: {} })
export const treeName = (common: string) => trees.value.kinds[common] ?? common
const plain = (words: string) => words.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
/** Kinds that words call in the language that is read, by their English names; none where those are what is read. */
export function kindsCalled(words: string): string[] | undefined {
  const wanted = plain(words).split(/\s+/).filter(Boolean)
  if (!wanted.length) return undefined
  const all = Object.entries(trees.value.kinds)
  const found = all.filter(([, name]) => wanted.every((word) => plain(name).includes(word)))
  return found.length ? found.map(([common]) => common) : undefined
}
/** The same for sizes of stock: 1.5 in balled, #15 container. */
export const sizeName = (label: string) =>
  label.replace(
    /^(#\d+|[\d./]+) ?(in|ft|cm)? ([a-z ]+)$/,
    (all, size: string, unit: string | undefined, of: string) => {
      const { [of]: words, [unit ?? '']: written } = trees.value.sizes
      const shown = Number.isNaN(Number(size)) ? size : figure(Number(size), 2)
      return words ? [shown, written, words].filter(Boolean).join(' ') : all
    },
  )

/** What dialogs say to screen readers; their own words where it is undefined. */
export const dialogs = shallowRef<Dialogs>()

const LOADED: Record<Language, () => Promise<{ messages: typeof en; of?: Dialogs; names?: Trees }>> = {
  en: async () => ({ messages: en }),
  es: async () => {
    const [{ default: own }, { default: task }, { default: of }, { default: names }] = await Promise.all([
      import('./es.json'),
      import('@words/care.es.json'),
      import('element-plus/es/locale/lang/es'),
      import('./trees.es.json'),
    ])
    return { messages: { ...own, task }, of, names }
  },
}

/** Have every page speak a language, from now on and after a restart; forAll: whoever holds this device. */
export async function speak(to: Language, { forAll = false } = {}) {
  const { messages, of, names } = await LOADED[to]()
  i18n.global.setLocaleMessage(to, messages)
  i18n.global.locale.value = to
  dialogs.value = of
  trees.value = names ?? { kinds: {}, sizes: {} }
  keepLanguage(to, forAll)
  document.documentElement.lang = to
}
