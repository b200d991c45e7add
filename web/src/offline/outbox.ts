/**
 * What is entered is kept first and sent then, in order, until the program has it: without signal, over a restart, an
 * update, a sign-out. What it does not take stays here, with what it said, until a person decides.
 */
import { computed, ref, shallowRef } from 'vue'
import { Problem, persist, take, type Schema } from '@/api/client'
import { i18n } from '@/i18n'
import { lost } from '@/api/connection'
import { civilDay } from '@/logic/dates'
import { keptAnswer } from './kept'
import { SHAPE, at, entriesOf, makes, restsOn, send, treesOf, type Row, type Write } from './rows'
import { isFull, makeRoom, store, type Differs } from './store'
import { SLACK_MS, isClockBehind, moment, settled } from './time'

/** It is kept and waits to be sent. */
export const WAITS = { waits: true } as const
const PATIENCE_MS = 10_000
/** As the program asks (plans/log.py, AGAIN_WITHIN and SAME_AMOUNT), where it can't be asked. */
const AGAIN_WITHIN_MS = 10 * 60_000
const SAME_AMOUNT = 0.01
/** What the program stumbles over so often holds up nothing else. */
const BROKEN_AFTER = 3
const LOOK_EVERY_MS = 1000

/** Everything that was not sent yet, in order; and what two devices logged for one tree. */
export const rows = shallowRef<Row[]>([])
export const differs = shallowRef<Differs[]>([])
/** What arrived a moment ago: pages that were told before it lay it over, too, until they are told anew. */
const arrived = shallowRef<{ row: Row; at_ms: number }[]>([])
/** Counts how often something that had waited arrived, so that pages ask anew. */
export const sent = ref(0)
/** All that pages lay over what the program told. */
export const overlaid = computed(() => [...arrived.value.map((one) => one.row), ...rows.value])
/** What lists of tasks lay over: without signal only, since what is said of many arrives one after the other. */
export const unsent = computed(() => (lost.value ? rows.value : []))
/** Pages were told anew, by a question asked at this moment: what had arrived by then is in it. */
export function toldAnew(asked_ms: number) {
  const left = arrived.value.filter((one) => one.at_ms > asked_ms)
  if (left.length < arrived.value.length) arrived.value = left
}

/** No room was left for what was entered last. */
export const full = ref(false)
const sending = ref(false)
const who = shallowRef<{ account: string | null; under: string | null }>({ account: null, under: null })
let clock: () => Promise<Schema['ClockOut']> = () => Promise.reject(new Error('no clock yet'))

async function look() {
  if (!store) return
  rows.value = await store.outbox.orderBy('seq').toArray()
  differs.value = await store.differs.toArray()
}

const mine = (row: Row) => row.account === who.value.account
/** What waits for signal, and what waits for a person. */
export const waits = computed(() => rows.value.filter((row) => row.state === 'waits'))
/** Of what waits for signal, what whoever is here entered. */
export const own = computed(() => waits.value.filter(mine))
export const needs = computed(() => rows.value.filter((row) => row.state !== 'waits' && mine(row)))

/** Who is here from now on; what is kept of another stays theirs. */
export function belongsTo(account: string | null, under: string | null) {
  who.value = { account, under }
  void flush().catch(() => undefined)
}

/** How the time is asked for, before anything is sent. */
export const asksTime = (how: typeof clock) => (clock = how)

async function tagOf(trees: string[]): Promise<string> {
  const id = trees[0]
  if (!id) return ''
  const tree = await keptAnswer<Schema['TreeOut']>(`/api/trees/${id}`)
  if (tree) return tree.data.tag
  const round = await keptAnswer<Schema['RoundOut']>('/api/today')
  const found = round?.data.sites.flatMap((s) => s.stops.flatMap((stop) => stop.trees)).find((one) => one.id === id)
  return found?.tag ?? ''
}

/** Whether what waits has the same amount for the same tree, a moment ago: the program can't be asked. */
function isAgain(write: Write, now: number): boolean {
  const before = rows.value
    .flatMap(entriesOf)
    .filter((entry) => now - new Date(entry.happened_at).getTime() < AGAIN_WITHIN_MS)
  const undone = new Set(rows.value.flatMap(entriesOf).map((entry) => entry.voids ?? entry.corrects))
  return entriesOf(write).some((entry) =>
    before.some(
      (was) =>
        was.tree_id === entry.tree_id &&
        was.volume_l != null &&
        entry.volume_l != null &&
        !undone.has(was.id) &&
        Math.abs(was.volume_l - entry.volume_l) <= SAME_AMOUNT * entry.volume_l,
    ),
  )
}

/** Null where the browser forbids all keeping: then it goes straight to the program, as long as there is signal. */
async function keepRow(row: Row): Promise<Row | null> {
  for (;;) {
    try {
      const seq = (await store!.outbox.where('id').equals(row.id).first())?.seq ?? (await store!.outbox.add(row))
      full.value = false
      return { ...row, seq }
    } catch (e) {
      if (isFull(e) && (await makeRoom())) continue
      full.value = isFull(e)
      if (!full.value) return null
      throw new Problem(507, i18n.global.t('signal.full'), '', {})
    }
  }
}

/**
 * Keep what was entered and send it. The program's answer, or WAITS where it did not come; what it refuses while
 * somebody is looking is theirs to put right: a Problem, and it waits no longer.
 */
export async function written<T>(write: Write, { ask = false } = {}): Promise<T | typeof WAITS> {
  const then = moment()
  const fresh = {
    ...write,
    body: JSON.parse(JSON.stringify(write.body)), // what a page holds can't be stored as it is
    shape: SHAPE,
    moment: then,
    ...who.value,
    tag: await tagOf(treesOf(write)),
    tries: 0,
    state: 'waits',
  } as Row
  const straight = () => persist(() => send(fresh, ask, null) as never) as Promise<T>
  if (!store) return straight()
  if (ask && lost.value && isAgain(write, then.at_ms)) throw new Problem(409, 'again', 'volume_l', {}, null, 'again')
  const first = !own.value.some((row) => row.id !== write.id)
  const row = await keepRow(fresh)
  if (!row) return straight()
  await look()
  if (lost.value || !first || isClockBehind()) {
    void flush().catch(() => undefined)
    return WAITS
  }
  const late = new Promise<typeof WAITS>((resolve) => setTimeout(() => resolve(WAITS), PATIENCE_MS))
  return Promise.race([alone(() => sendNow<T>(row, ask)), late])
}

async function sendNow<T>(row: Row, ask: boolean): Promise<T | typeof WAITS> {
  try {
    await store!.outbox.update(row.seq!, { tries: row.tries + 1 } as never)
    const answer = await persist(() => send(row, ask, null) as never)
    await taken(row, answer)
    return answer as T
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    if (isUnanswered(e) || (e.status === 401 && !e.field)) return WAITS
    await store!.outbox.delete(row.seq!)
    throw e
  } finally {
    await look()
  }
}

const isUnanswered = (e: Problem) => e.status === 0 || e.status >= 500 || e.status === 429

async function taken(row: Row, answer: unknown) {
  arrived.value = [...arrived.value, { row, at_ms: performance.now() }]
  await store!.outbox.delete(row.seq!)
  const stored = [answer].flat() as Partial<Schema['EntryOut']>[]
  for (const entry of row.kind === 'entry' || row.kind === 'entries' ? stored : []) {
    if (entry?.twice && entry.id && entry.tree_id)
      await store!.differs.put({ id: entry.id, tree_id: entry.tree_id, tag: row.tag })
  }
}

/** One sends at a time, whichever page of this device it is. */
let last: Promise<unknown> = Promise.resolve()
function alone<T>(work: () => Promise<T>): Promise<T> {
  if (navigator.locks) return navigator.locks.request('june-shade-outbox', work) as Promise<T>
  const mine = last.then(work, work)
  last = mine.catch(() => undefined)
  return mine
}

/** Send all that waits, in order. */
export async function flush() {
  if (!store) return
  await look()
  if (own.value.length) await alone(sendAll)
}

async function sendAll() {
  const tried = new Set<string>()
  const untried = () => own.value.filter((row) => !tried.has(row.id))
  await look()
  if (!untried().length) return
  sending.value = true
  let some = false
  try {
    const told = await clock()
    const now = { server_ms: new Date(told.now).getTime(), device_ms: Date.now() }
    const held = new Set(needs.value.flatMap(makes))
    let looked_ms = performance.now()
    for (let queue = untried(); queue.length; queue = untried()) {
      for (const row of queue) {
        tried.add(row.id)
        if (restsOn(row).some((id) => held.has(id))) continue
        const right = await dated(row, now)
        const came = right ? await sendLater(right, now.server_ms) : 'kept'
        if (came === 'lost') return
        if (came === 'kept') for (const id of makes(row)) held.add(id)
        some ||= right !== null
        if (performance.now() - looked_ms < LOOK_EVERY_MS) continue // to read a day's rows after each takes longer than to send it
        await look()
        looked_ms = performance.now()
      }
      await look() // what was entered meanwhile
    }
  } catch {
    // nobody answers: it waits
  } finally {
    sending.value = false
    await look()
    if (some) sent.value++
  }
}

/** The row with its time put right where the device's clock was wrong; null where a person has to say. */
async function dated(row: Row, now: { server_ms: number; device_ms: number }): Promise<Row | null> {
  if (row.tries > 0) return row // it may be there already, as it was
  const ms = settled(row.moment, now)
  if (ms === null) {
    await store!.outbox.update(row.seq!, { state: 'when' } as never)
    return null
  }
  if (Math.abs(ms - row.moment.at_ms) < SLACK_MS) return row
  const right = at(row, ms)
  await store!.outbox.put(right)
  return right
}

/** Send a row that waited. kept: it was not taken, and waits for a person; lost: nobody answers, so the rest waits too. */
async function sendLater(row: Row, now: number): Promise<'sent' | 'kept' | 'lost'> {
  const made = civilDay(row.moment.at_ms)
  await store!.outbox.update(row.seq!, { tries: row.tries + 1 } as never)
  try {
    await taken(row, await take(send(row, false, made === civilDay(now) ? null : made) as never))
    return 'sent'
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    const isBroken = e.status === 500 && row.tries >= BROKEN_AFTER
    if (!isBroken && (isUnanswered(e) || (e.status === 401 && !e.field))) return 'lost'
    const why = { status: e.status, code: e.code, field: e.field, detail: e.detail }
    await store!.outbox.update(row.seq!, { state: e.code === 'late' ? 'late' : 'refused', why } as never)
    return 'kept'
  }
}

/** Try once more to send what was refused, or what an owner may have let in by now. */
export async function tryAgain(list: Row[]) {
  for (const row of list) await store!.outbox.update(row.seq!, { state: 'waits', why: undefined } as never)
  await flush()
}

/** A person says when it was. */
export async function setWhen(row: Row, ms: number) {
  const right = at(row, ms)
  right.moment = { ...right.moment, device_ms: ms, ahead_ms: 0, known_ms: Math.min(right.moment.known_ms, ms) }
  await store!.outbox.put({ ...right, tries: 1, state: 'waits' })
  await flush()
}

/** A person gives up what the program does not take. */
export async function giveUp(row: Row) {
  await store!.outbox.delete(row.seq!)
  await look()
}

/** What two devices logged is settled. */
export async function settle(one: Differs) {
  await store!.differs.delete(one.id)
  await look()
}

export const useOutbox = () => ({ rows, overlaid, unsent, waits, own, needs, differs, full, sending, look })
void look().catch(() => undefined)
