/** Writing to the log: water, skips, notes, undo, correction. Each entry has its id before it is sent. */
import { newId, type Schema } from '@/api/client'
import { sure } from './useAgain'
import { useClock } from './useClock'
import { deviceId, useDevice } from './useDevice'
import type { Entry as Tried, Sending } from './usePictures'

type Entry = Schema['EntryIn']
type Own = Omit<Entry, 'happened_at' | 'device_id' | 'person_id'>

export function useLogging() {
  const { nowIso } = useClock()
  const { person, ensurePerson } = useDevice()

  const signed = (entry: Own, happenedAt: string): Entry => ({
    ...entry,
    happened_at: happenedAt,
    device_id: deviceId(),
    person_id: person.value?.id ?? null,
  })

  /** first: what must be there before it, given its id. */
  async function put(entry: Own, happenedAt?: string, id = newId(), first?: (id: string) => Promise<unknown>) {
    if (!(await ensurePerson())) return null
    await first?.(id)
    const body = signed(entry, happenedAt ?? nowIso())
    return sure<Schema['EntryOut']>({ kind: 'entry', id, body })
  }

  const water = (treeId: string, litres: number, minutes: number | null) =>
    put({ tree_id: treeId, kind: 'water', volume_l: litres, duration_min: minutes })

  /** A whole stop in one: all or none. */
  async function waterAll(trees: { id: string; litres: number; minutes: number | null }[]) {
    if (!(await ensurePerson())) return null
    const at = nowIso()
    const entries = trees.map((tree) => ({
      ...signed({ tree_id: tree.id, kind: 'water', volume_l: tree.litres, duration_min: tree.minutes }, at),
      id: newId(),
    }))
    return sure<Schema['EntryOut'][]>({ kind: 'entries', id: newId(), body: { entries } })
  }

  /** A line waters everyone on it: what one tree got tells how long it ran, the others got theirs. */
  function waterLine(line: Schema['LineOut'], treeId: string, litres: number, minutes: number | null) {
    const own = line.shares.find((s) => s.tree_id === treeId)
    if (!own || own.litres <= 0) return water(treeId, litres, minutes)
    const part = litres / own.litres
    const ran = minutes ?? (line.run_min === null ? null : Math.round(line.run_min * part * 10) / 10)
    return waterAll(line.shares.map((s) => ({ id: s.tree_id, litres: s.litres * part, minutes: ran })))
  }

  const skip = (treeId: string, reason: Schema['EntryIn']['reason']) => put({ tree_id: treeId, kind: 'skip', reason })

  /** as: its id and time where it may be tried again; send: sends the pictures that go before it. */
  const note = (treeId: string, words: string, seen: Schema['EntryIn']['seen'] = null, as?: Tried, send?: Sending) =>
    put({ tree_id: treeId, kind: 'note', note: words || null, seen }, as?.at, as?.id, (id) =>
      send ? send(treeId, 'note', id) : Promise.resolve(),
    )

  /** What a probe read, of ball, soil beside it or both. */
  const probe = (treeId: string, ball: number | null, ring: number | null) =>
    put({ tree_id: treeId, kind: 'reading', how: 'probe', ball_theta: ball, ring_theta: ring })

  /** One reading of the ball or of the soil beside it. */
  const feel = (
    treeId: string,
    how: Schema['EntryIn']['how'],
    where: 'ball' | 'ring',
    felt: Schema['EntryIn']['ball_feel'],
  ) => put({ tree_id: treeId, kind: 'reading', how, [`${where}_feel`]: felt })

  /** A reading put right: one answer of it, the other stays as it was. */
  const feltInstead = (
    was: Schema['EntryOut'],
    how: Schema['EntryIn']['how'],
    where: 'ball' | 'ring',
    felt: Schema['EntryIn']['ball_feel'],
  ) =>
    put(
      {
        tree_id: was.tree_id,
        kind: 'reading',
        how,
        ball_feel: was.ball_feel,
        ring_feel: was.ring_feel,
        [`${where}_feel`]: felt,
        corrects: was.id,
        void_id: newId(),
      },
      was.happened_at,
    )

  const undo = (entry: Schema['EntryOut']) => put({ tree_id: entry.tree_id, kind: 'void', voids: entry.id })

  const correct = (entry: Schema['EntryOut'], litres: number) => replace(entry, entry.tree_id, litres)

  /** Water that was poured at another tree: undone here and logged there, in one. */
  const move = (entry: Schema['EntryOut'], treeId: string) => replace(entry, treeId, entry.volume_l!)

  const replace = (entry: Schema['EntryOut'], treeId: string, litres: number) =>
    put(
      {
        tree_id: treeId,
        kind: 'water',
        volume_l: litres,
        duration_min: litres === entry.volume_l ? entry.duration_min : null,
        corrects: entry.id,
        void_id: newId(),
      },
      entry.happened_at,
    )

  return { water, waterAll, waterLine, skip, note, feel, probe, feltInstead, undo, correct, move }
}
