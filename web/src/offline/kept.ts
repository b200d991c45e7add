/**
 * Answers that are kept, and given again where the program can't be reached. Every page is asked for as ever; what it is
 * told then is from before, and the strip above says so.
 */
import { lost } from '@/api/connection'
import { forgetAnswers, isFull, makeRoom, store } from './store'

/** The device's time when a kept answer came [ms]. */
export const KEPT_OF = 'x-kept-of'
/** So long is waited for an answer where one is kept, with signal and where there was none a moment ago. */
const PATIENCE_MS = 15_000
const LOST_PATIENCE_MS = 1500
/** Not kept: files, what is only an owner's, what is asked for once, what others' addresses are. */
const NEVER =
  /\/(backup|accounts|audit|devices|late|shares|since|imports|calendars|clock)\b|\.(csv|ics|zip)$|\/file$|\/stations\/[^/]+\/days/
const GONE = new Set([502, 503, 504])

export const isKept = (path: string) => path.startsWith('/api/') && !NEVER.test(path)
const keyOf = (url: string) => {
  const { pathname, search } = new URL(url, 'http://here')
  return pathname + search
}

async function keep(key: string, body: string) {
  const row = { key, body, of_ms: Date.now() }
  try {
    await store!.answers.put(row)
  } catch (e) {
    if (isFull(e) && (await makeRoom())) await store!.answers.put(row).catch(() => undefined)
  }
}

/** A kept answer, null where there is none. */
export async function keptAnswer<T>(path: string): Promise<{ data: T; of_ms: number } | null> {
  const found = await store?.answers.get(path).catch(() => undefined)
  return found ? { data: JSON.parse(found.body) as T, of_ms: found.of_ms } : null
}

async function again(key: string): Promise<Response | null> {
  const found = await store!.answers.get(key).catch(() => undefined)
  if (!found) return null
  const headers = { 'Content-Type': 'application/json', [KEPT_OF]: String(found.of_ms) }
  return new Response(found.body, { headers })
}

/** Whether an answer says that the program, or its record, can't be reached; busy it can. */
async function isGone(answer: Response): Promise<boolean> {
  if (!GONE.has(answer.status)) return false
  const said = (await answer
    .clone()
    .json()
    .catch(() => null)) as { code?: string } | null
  return said?.code !== 'busy'
}

/** Ask; where nobody answers, what is kept. */
export async function ask(request: Request): Promise<Response> {
  const key = keyOf(request.url)
  if (!store || request.method !== 'GET' || !isKept(key.split('?')[0]!)) return fetch(request)
  const patience = new AbortController()
  const there = store.answers
    .get(key)
    .then((row) => row && setTimeout(() => patience.abort(), lost.value ? LOST_PATIENCE_MS : PATIENCE_MS))
    .catch(() => undefined)
  try {
    const answer = await fetch(new Request(request, { signal: AbortSignal.any([request.signal, patience.signal]) }))
    if (answer.ok) {
      const type = answer.headers.get('content-type') ?? ''
      if (type.includes('json'))
        void answer
          .clone()
          .text()
          .then((body) => keep(key, body))
          .catch(() => undefined)
      return answer
    }
    if (answer.status === 401) void forgetAnswers() // whoever was here is not any more
    return (await isGone(answer)) ? ((await again(key)) ?? answer) : answer
  } catch (e) {
    if (request.signal.aborted) throw e
    const kept = await again(key)
    if (kept) return kept
    throw e
  } finally {
    void there.then((timer) => clearTimeout(timer || undefined))
  }
}
