/** This device and who holds it: an id made once, a person chosen once. */
import { ref } from 'vue'
import { api, newId, take, type Schema } from '@/api/client'

const ID = 'june-shade-device'
const PERSON = 'june-shade-person'

const person = ref<Schema['PersonOut'] | null>(JSON.parse(localStorage.getItem(PERSON) ?? 'null'))
const asking = ref(false)
let answer: ((chosen: boolean) => void) | null = null

export function deviceId(): string {
  const kept = localStorage.getItem(ID)
  if (kept) return kept
  const made = newId()
  localStorage.setItem(ID, made)
  return made
}

function keep(who: Schema['PersonOut']) {
  if (person.value?.id === who.id && person.value.name === who.name && !asking.value) return
  person.value = who
  localStorage.setItem(PERSON, JSON.stringify(who))
  asking.value = false
  answer?.(true)
  answer = null
}

/** Makes sure that someone was chosen; false where the question was closed. */
function ensurePerson(): Promise<boolean> {
  if (person.value) return Promise.resolve(true)
  asking.value = true
  return new Promise((resolve) => (answer = resolve))
}

function dismiss() {
  asking.value = false
  answer?.(false)
  answer = null
}

async function choose(name: string) {
  keep(await take(api.PUT('/api/people/{person_id}', { params: { path: { person_id: newId() } }, body: { name } })))
}

export function useDevice() {
  return { person, asking, keep, choose, ensurePerson, dismiss }
}
