/** Which language this device speaks, and how numbers and dates are written where it is spoken. */
import { computed, ref } from 'vue'

export const LANGUAGES = ['en', 'es'] as const
export type Language = (typeof LANGUAGES)[number]
export const OWN_NAME: Record<Language, string> = { en: 'English', es: 'Español' }

/** What this device speaks, whoever holds it; what it speaks just now; what an account chose without signal. */
const KEY = 'june-shade-language'
const NOW = 'june-shade-language-now'
const UNSENT = 'june-shade-language-unsent'
/** Where a browser names no region along with the language: crews of the US, who write 1.5 in both. */
const USUAL: Record<Language, string> = { en: 'en-US', es: 'es-US' }

/** What the browser asks for, the most wanted first. */
const wanted = () => navigator.languages ?? [navigator.language]
const languageOf = (locale: string) => LANGUAGES.find((one) => one === locale.split('-')[0])

const kept = (key: string) => languageOf(localStorage.getItem(key) ?? '')
/** What it speaks for those who never chose. */
export const ofDevice = (): Language => kept(KEY) ?? wanted().map(languageOf).find(Boolean) ?? 'en'

export const language = ref<Language>(kept(NOW) ?? ofDevice())

/** Language and region: Spanish of a phone from Mexico writes 1.5, of one from Spain 1,5. */
export const locale = computed(
  () => wanted().find((one) => one.includes('-') && languageOf(one) === language.value) ?? USUAL[language.value],
)

/** It is spoken from now on; forAll: by this device, whoever holds it. */
export function keepLanguage(to: Language, forAll: boolean) {
  language.value = to
  localStorage.setItem(NOW, to)
  if (forAll) localStorage.setItem(KEY, to)
}

/** What an account chose and the program was not told yet. */
export function unsentOf(account: string): Language | undefined {
  const [of, to] = (localStorage.getItem(UNSENT) ?? '').split(' ')
  return of === account ? languageOf(to ?? '') : undefined
}
export const keepUnsent = (account: string, to: Language) => localStorage.setItem(UNSENT, `${account} ${to}`)
export const forgetUnsent = () => localStorage.removeItem(UNSENT)
