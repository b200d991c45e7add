/** The API: typed from the server's own description. Errors become one class that carries the server's sentence. */
import createClient from 'openapi-fetch'
import { language } from '@/i18n/language'
import { worded } from '@/units'
import { ask, KEPT_OF } from '@/offline/kept'
import { answered } from '@/offline/time'
import { isLost, noticed, refusedIn } from './connection'
import type { components, paths } from './schema'

export type Schema = components['schemas']
export const api = createClient<paths>({ baseUrl: '', fetch: ask })

let wroteAt = -Infinity
api.use({
  onRequest({ request }) {
    request.headers.set('Accept-Language', language.value)
  },
  onResponse({ request }) {
    if (request.method !== 'GET') wroteAt = performance.now()
  },
})

/** What others did is wanted as it is now, too: what was waited for is there. */
export const wantFresh = () => (wroteAt = performance.now())

/** How old an answer may be that many ask for: somebody else's work may lag a little, this device's own never. */
export function mayLag(most_s = 2) {
  const since_s = Math.floor((performance.now() - wroteAt) / 1000)
  return { 'Cache-Control': `max-age=${Math.max(0, Math.min(most_s, since_s))}` }
}

/** What is wrong with a field: a sentence, or a range in SI that is worded in the units shown. */
export type Wrong =
  | string
  | { rule: 'above' | 'at_least' | 'at_most'; limit: number; detail: string }
  | { theirs: unknown; detail: string }

export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly field: string,
    readonly fields: Record<string, Wrong>,
    /** The version that is stored now, where someone else changed the thing meanwhile. */
    readonly version: number | null = null,
    /** Stable word for the kind of error. */
    readonly code = '',
  ) {
    super(detail)
  }
}

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** A problem whose sentences tell their quantities in the units shown. */
function inUnits(problem: Partial<Schema['Problem']>): Partial<Schema['Problem']> {
  const errors = problem.errors?.map((e) => ({ ...e, detail: worded(e.detail) }))
  return { ...problem, detail: problem.detail && worded(problem.detail), errors }
}

/** A field's own name: a row of trees names its fields inside the first, or inside one of many. */
const own = (field: string) => field.replace(/^(first|trees\[\d+\]|trees\.\d+)\./, '')

/** The data of an answer, or a Problem. */
export async function take<T>(pending: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await pending
  } catch (e) {
    if (e instanceof DOMException && e.name === 'AbortError') throw e
    noticed(true)
    throw new Problem(0, 'offline', '', {})
  }
  if (answer.response.ok) {
    const isOfNow = !answer.response.headers.has(KEPT_OF)
    noticed(!isOfNow)
    if (isOfNow) answered()
    return answer.data as T
  }
  const body = inUnits((answer.error ?? {}) as Partial<Schema['Problem']>)
  noticed(isLost(answer.response.status, body.code))
  if (answer.response.status === 401 && !body.field) refusedIn.value++ // with a field it is about what was typed
  const fields: Record<string, Wrong> = {}
  for (const { field, ...rest } of body.errors ?? []) {
    const item = { ...rest, field: own(field) }
    const named = /^(\w+): (.*)$/.exec(item.detail)
    if (item.rule && typeof item.limit === 'number')
      fields[item.field] = { rule: item.rule, limit: item.limit, detail: item.detail }
    else if (!item.field && named) fields[named[1]!] = named[2]!
    else fields[item.field] = item.detail
  }
  const whole = own(body.field ?? '')
    .split('.')
    .pop()!
  if (whole && !fields[whole]) fields[whole] = body.detail ?? ''
  const stale = body.code === 'stale' ? (body.version ?? null) : null
  for (const d of stale === null ? [] : (body.differences ?? [])) {
    fields[d.field] = { theirs: d.stored, detail: body.detail ?? '' }
  }
  if (stale !== null) delete fields.version
  const { status, statusText } = answer.response
  throw new Problem(status, body.detail ?? statusText, body.field ?? '', fields, stale, body.code)
}

/** A write under an id of our own: sent again where no answer came, since the server knows it by its id. */
export async function persist<T>(send: () => Promise<Answer<T>>, tries = 3): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await take(send())
    } catch (e) {
      const lost = e instanceof Problem && (e.status === 0 || e.status === 503)
      if (!lost || attempt >= tries) throw e
      await new Promise((resolve) => setTimeout(resolve, e.status === 503 ? 1000 * attempt : 400 * attempt))
    }
  }
}

/** What stands for a thing that is not there. */
export const missing = (what: string) => new Problem(404, what, '', {}, null, 'not_found')

export function newId(): string {
  if (typeof crypto.randomUUID === 'function') return crypto.randomUUID()
  const b = crypto.getRandomValues(new Uint8Array(16))
  b[6] = (b[6]! & 0x0f) | 0x40
  b[8] = (b[8]! & 0x3f) | 0x80
  const hex = [...b].map((x) => x.toString(16).padStart(2, '0')).join('')
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5')
}
