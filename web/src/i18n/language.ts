/** Which language this device speaks, and how numbers and dates are written where it is spoken. */
import { computed, ref } from 'vue'

export const LANGUAGES = ['en', 'es'] as const
export type Language = (typeof LANGUAGES)[number]
export const OWN_NAME: Record<Language, string> = { en: 'English', es: 'Español' }

const KEY = 'june-shade-language'
/** Where a browser names no region along with the language: crews of the US, who write 1.5 in both. */
const USUAL: Record<Language, string> = { en: 'en-US', es: 'es-US' }

/** What the browser asks for, the most wanted first. */
const wanted = () => navigator.languages ?? [navigator.language]
const languageOf = (locale: string) => LANGUAGES.find((one) => one === locale.split('-')[0])

function initial(): Language {
  const kept = languageOf(localStorage.getItem(KEY) ?? '')
  return kept ?? wanted().map(languageOf).find(Boolean) ?? 'en'
}

export const language = ref<Language>(initial())

/** Language and region: Spanish of a phone from Mexico writes 1.5, of one from Spain 1,5. */
export const locale = computed(
  () => wanted().find((one) => one.includes('-') && languageOf(one) === language.value) ?? USUAL[language.value],
)

/** This device speaks it from now on. */
export function keepLanguage(to: Language) {
  language.value = to
  localStorage.setItem(KEY, to)
}
