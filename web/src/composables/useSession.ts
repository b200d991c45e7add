/** Who is signed in on this device, and coming in and going out. Without accounts everything is open. */
import { computed, shallowRef, watch } from 'vue'
import { api, Problem, take, type Schema } from '@/api/client'
import { refusedIn, returned } from '@/api/connection'
import { useDevice } from '@/composables/useDevice'
import { belongsTo } from '@/offline/outbox'
import { speak } from '@/i18n'
import { forgetUnsent, keepUnsent, language, ofDevice, unsentOf, type Language } from '@/i18n/language'
import { forgetAnswers } from '@/offline/store'

/** Whose answers this device keeps. */
const WHOSE = 'june-shade-whose'
/** What the server said last, for who stands at the gate. */
const latest = shallowRef<Schema['SessionOut'] | null>(null)
/** The same for the pages: while somebody has to come in again, they stay as they are, with what was typed. */
const told = shallowRef<Schema['SessionOut'] | null>(null)
const me = computed(() => told.value?.me ?? null)
/** Somebody has to come in, take their turn, or choose a password before anything else. */
const mustComeIn = computed(() => {
  const now = latest.value
  return now !== null && !now.is_open && (now.me?.must_change ?? true)
})
/** The pages were shown once: they stay behind the sign-in, with what was typed in them. */
const wasIn = shallowRef(false)
let before: string | null = null

async function look() {
  const now = await take(api.GET('/api/session'))
  const account = now.me?.account_id ?? null
  const whose = (now.shared ? now.device_id : account) ?? '' // a crew's phone keeps them from turn to turn
  if (localStorage.getItem(WHOSE) !== whose) {
    await forgetAnswers()
    localStorage.setItem(WHOSE, whose)
  }
  if (before && account && before !== account) {
    location.reload() // what is in memory was another one's
    return
  }
  before = account ?? before
  if (now.is_open || account) belongsTo(account, now.device_id)
  latest.value = now
  if (!mustComeIn.value || !wasIn.value) told.value = now
  wasIn.value ||= !mustComeIn.value
  if (now.me) await speakTo(now.me)
  else if (now.shared && language.value !== ofDevice()) await speak(ofDevice()) // between turns it is nobody's
  if (now.me) useDevice().keep({ id: now.me.person_id, name: now.me.name })
}

/** Speak as whoever is here reads: as they chose without signal, as they chose ever, or as the device does. */
async function speakTo({ account_id, language: chosen }: NonNullable<Schema['SessionOut']['me']>) {
  const unsent = unsentOf(account_id)
  if (unsent) await tell(unsent, account_id)
  const to = unsent ?? chosen ?? ofDevice()
  if (to !== language.value) await speak(to)
}

watch(refusedIn, () => void look().catch(() => undefined))
watch(returned, () => void look().catch(() => undefined))

const comeIn = async (body: Schema['SignIn']) => {
  await take(api.POST('/api/session', { body }))
  await look()
}
async function goOut() {
  await take(api.DELETE('/api/session'))
  await forgetAnswers()
  location.assign('/today')
}
const takeTurn = async (account_id: string, pin: string) => {
  await take(api.POST('/api/session/turn', { body: { account_id, pin } }))
  await look()
}
async function handOn() {
  await take(api.DELETE('/api/session/turn'))
  await look()
}
async function found(body: Schema['Founding']) {
  await take(api.POST('/api/owner', { body }))
  await look()
}
async function changePassword(old: string, fresh: string) {
  await take(api.PUT('/api/session/password', { body: { old, new: fresh } }))
  await look()
}
async function changePin(pin: string | null) {
  await take(api.PUT('/api/session/pin', { body: { pin } }))
  await look()
}

/** Read another language: on this device, and on all of one's own where there are accounts; of a device that a crew
 * shares it is only one's own. */
async function chooseLanguage(to: Language) {
  const whose = latest.value?.me // before somebody's turn it is nobody's: the device's
  await speak(to, { forAll: !whose || !latest.value?.shared })
  if (whose) await tell(to, whose.account_id)
}
async function tell(to: Language, account: string) {
  keepUnsent(account, to)
  await take(api.PUT('/api/session/language', { body: { language: to } })).then(forgetUnsent, () => undefined)
}

const RANK = { client: 0, technician: 1, lead: 2, owner: 3 } as const
/** Whether what asks for a role is theirs to do; on a crew's phone nobody is more than a technician. */
function may(role: keyof typeof RANK) {
  if (!told.value || told.value.is_open) return true
  const mine = me.value ? RANK[told.value.shared ? 'technician' : me.value.role] : 0
  return mine >= RANK[role]
}

/** What a problem says of one field, "" where it is not about that. */
export const saidOf = (e: unknown, field: string) => (e instanceof Problem && e.field === field ? e.detail : '')

export function useSession() {
  return {
    latest, told, me, mustComeIn, wasIn, look, comeIn, goOut, takeTurn, handOn, found, changePassword, changePin, may,
    chooseLanguage,
  } // prettier-ignore
}
