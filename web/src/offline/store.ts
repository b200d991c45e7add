/** What a device keeps for days without signal: answers of the program, and what waits to be sent. */
import Dexie, { type Table } from 'dexie'
import type { Row } from './rows'

/** An answer as it came, by its address. */
export interface Answer {
  key: string
  body: string
  /** The device's time when it came. */
  of_ms: number
}

/** Water that two devices logged for one tree at about the same time: which is asked, and nothing is overwritten. */
export interface Differs {
  id: string
  tree_id: string
  tag: string
}

class Kept extends Dexie {
  answers!: Table<Answer, string>
  outbox!: Table<Row, number>
  differs!: Table<Differs, string>

  constructor() {
    super('june-shade')
    this.version(1).stores({ answers: 'key, of_ms', outbox: '++seq, &id, state', differs: 'id' })
  }
}

/** null where the browser keeps nothing: then all goes straight to the program, as it does with signal. */
export const store: Kept | null = typeof indexedDB === 'undefined' ? null : new Kept()

const OLDEST_MS = 14 * 86_400_000
const MOST_ANSWERS = 4000
const GIVEN_UP_AT_ONCE = 200

/** What nobody needs any more goes: answers of a fortnight ago, and beyond a number the oldest. */
export async function tidy() {
  if (!store) return
  await store.answers
    .where('of_ms')
    .below(Date.now() - OLDEST_MS)
    .delete()
  const over = (await store.answers.count()) - MOST_ANSWERS
  if (over > 0) await giveUp(over)
}

const giveUp = (many: number) =>
  store!.answers
    .orderBy('of_ms')
    .limit(many)
    .primaryKeys()
    .then((keys) => store!.answers.bulkDelete(keys))

export const isFull = (e: unknown) =>
  e instanceof Error &&
  (e.name === 'QuotaExceededError' || (e as { inner?: Error }).inner?.name === 'QuotaExceededError')

/** Make room on a full phone: copies go, pictures and the oldest first; what was not sent yet never does. True where there was any. */
export async function makeRoom(): Promise<boolean> {
  if (typeof caches !== 'undefined' && (await caches.delete('pictures'))) return true
  if (!store || !(await store.answers.count())) return false
  await giveUp(GIVEN_UP_AT_ONCE)
  return true
}

/** Nothing of one person is left for the next: what was not sent stays, and is sent only by whoever entered it. */
export async function forgetAnswers() {
  await store?.answers.clear().catch(() => undefined) // a browser may forbid all keeping
  if (typeof caches !== 'undefined') await caches.delete('pictures')
}
