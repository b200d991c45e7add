/** All interface text lives in messages, one file a language; dated tasks in one that the server's calendars read too. */
import { createI18n } from 'vue-i18n'
import tasks from '@words/care.en.json'
import own from './en.json'

const en = { ...own, task: tasks }
export const i18n = createI18n({ legacy: false, locale: 'en', fallbackLocale: 'en', messages: { en } })
