/**
 * What a phone takes along while it has signal: the plans of the next days, the trees in them with their sheets, checks
 * and book, the check-up's rule. Asked for one after the other and seldom, so that two hundred phones are no load.
 */
import { ref, shallowRef } from 'vue'
import type { Schema } from '@/api/client'
import { lost } from '@/api/connection'
import { ask, keptAnswer } from './kept'
import { store } from './store'

const EVERY_MS = 3_600_000
const SHEETS_EVERY_MS = 6 * 3_600_000
const PAUSE_MS = 120
const ALWAYS = [
  '/api/today',
  '/api/today/ahead',
  '/api/fortnight',
  '/api/plan',
  '/api/care',
  '/api/crews',
  '/api/sites',
  '/api/people',
  '/api/checkup-rule',
  '/api/session',
]
const OF_TREE = ['', '/water', '/checks', '/checkup', '/log', '/pictures']
const BOOK = (tree: string) => `/api/book?tree_id=${tree}&undone=false&limit=100`

export interface Along {
  /** The device's time when today's plan came. */
  of_ms: number
  until: string
  trees: number
}
/** What this device has along; null = nothing yet. */
export const along = shallowRef<Along | null>(null)
export const taking = ref(false)
/** Somebody waits for it: without pauses. */
export const hurried = ref(false)

const fetched = async (path: string) => {
  const response = await ask(new Request(path))
  if (!response.ok) throw new Error(`${response.status}`)
  await response.json()
}

/** Trees of today's round and of the days taken along, of a crew or of all, those that come first first. */
function treesOf(days: Schema['RoundOut'][], crew: string): string[] {
  const ofCrew = (site: Schema['RoundSite']) => !crew || site.crew?.id === crew
  const trees = days.flatMap((day) =>
    day.sites.filter(ofCrew).flatMap((site) => site.stops.flatMap((stop) => stop.trees.map((tree) => tree.id))),
  )
  return [...new Set(trees)]
}

async function days(): Promise<Schema['RoundOut'][]> {
  const today = await keptAnswer<Schema['RoundOut']>('/api/today')
  const ahead = await keptAnswer<Schema['RoundOut'][]>('/api/today/ahead')
  return [...(today ? [today.data] : []), ...(ahead?.data ?? [])]
}

/** What is along by now. */
export async function lookAlong() {
  const today = await keptAnswer<Schema['RoundOut']>('/api/today')
  const found = await days()
  const trees = treesOf(found, '')
  const kept = store
    ? await store.answers
        .where('key')
        .anyOf(trees.map((id) => `/api/trees/${id}/water`))
        .count()
    : 0
  along.value = today && found.length > 1 ? { of_ms: today.of_ms, until: found.at(-1)!.day, trees: kept } : null
}

/** Take it all along; atOnce: what is there already too. Stops where the signal does. */
export async function takeAlong({ crew = '', atOnce = false } = {}) {
  if (!store || lost.value) return
  hurried.value ||= atOnce
  if (taking.value) return
  taking.value = true
  try {
    const now = Date.now()
    const isYoung = async (path: string, most_ms: number) => {
      const of_ms = (await store!.answers.get(path))?.of_ms
      return !atOnce && of_ms !== undefined && now - of_ms < most_ms
    }
    for (const path of ALWAYS) if (!(await isYoung(path, EVERY_MS))) await fetched(path)
    for (const id of treesOf(await days(), crew)) {
      for (const path of [...OF_TREE.map((end) => `/api/trees/${id}${end}`), BOOK(id)]) {
        if (lost.value) return
        if (await isYoung(path, SHEETS_EVERY_MS)) continue
        await fetched(path).catch(() => undefined)
        if (!hurried.value) await new Promise((resolve) => setTimeout(resolve, PAUSE_MS))
      }
    }
  } catch {
    // what came is there; the rest at the next time
  } finally {
    taking.value = hurried.value = false
    await lookAlong()
  }
}

/** Whether this is a device that is carried around. */
export const isCarried = () =>
  matchMedia('(pointer: coarse)').matches || matchMedia('(display-mode: standalone)').matches
