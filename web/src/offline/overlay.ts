/** What was logged on this device and not sent yet, laid over what the program told: crossed off and added up. */
import type { Schema } from '@/api/client'
import { civilDay } from '@/logic/dates'
import { entriesOf, type Row } from './rows'

type Entry = Schema['EntryOut']

/** An entry that waits, as the program would tell it. */
function told(entry: Schema['EntryIn'] & { id: string }, zone: string, person: string | null): Entry {
  const local = civilDay(new Date(entry.happened_at).getTime(), zone)
  const rest = { person_id: null, note: null, reason: null, seen: null, how: null, ball_feel: null, ring_feel: null }
  return {
    ...rest,
    ball_theta: null,
    ring_theta: null,
    volume_l: null,
    duration_min: null,
    voids: null,
    ...entry,
    person,
    local_date: local,
    recorded_at: entry.happened_at,
    voided: false,
    twice: false,
    against: [],
  } as Entry
}

/** Entries that wait, in order, and ids of those that are undone by one. */
export function waiting(rows: Row[], zone: string, person: string | null) {
  const all = rows.filter((row) => row.state !== 'refused').flatMap(entriesOf)
  const undone = new Set(all.flatMap((one) => [one.voids, one.corrects]).filter((id) => id != null))
  const entries = all.filter((one) => one.kind !== 'void').map((one) => told(one, zone, person))
  return { entries, undone }
}

/** A log, newest first, with what waits. */
export function overLog(log: Entry[], treeId: string, rows: Row[], zone: string, person: string | null): Entry[] {
  const { entries, undone } = waiting(rows, zone, person)
  const known = new Set(log.map((one) => one.id))
  const own = entries.filter((one) => one.tree_id === treeId && !known.has(one.id))
  return [...own.reverse(), ...log].map((one) => (undone.has(one.id) ? { ...one, voided: true } : one))
}

/** Dated tasks without those that something was said of. */
export function overTasks<T extends Schema['TaskOut']>(tasks: T[], rows: Row[]): T[] {
  const back = new Set(rows.flatMap((row) => (row.kind === 'careBack' ? [row.body.act_id] : [])))
  const said = new Set<string>()
  for (const row of rows)
    if (row.kind === 'care' && row.state !== 'refused' && !back.has(row.id))
      said.add(`${row.body.tree_id ?? row.body.planting_id}/${row.body.key}`)
  return said.size ? tasks.filter((task) => !said.has(`${task.tree_id ?? task.planting_id}/${task.key}`)) : tasks
}

/** A round with what waits: watered and passed-over trees are crossed off, litres add up. unsent: as lists of tasks do. */
export function overRound(
  round: Schema['RoundOut'],
  rows: Row[],
  person: string | null,
  unsent: Row[] = rows,
): Schema['RoundOut'] {
  if (!rows.length) return round
  return {
    ...round,
    sites: round.sites.map((site) => {
      const { entries, undone } = waiting(rows, site.zone, person)
      const today = entries.filter((one) => one.local_date === round.day && !undone.has(one.id))
      return {
        ...site,
        care: overTasks(site.care, unsent),
        stops: site.stops.map((stop) => ({
          ...stop,
          trees: stop.trees.map((tree) => overTree(tree, today, undone)),
        })),
      }
    }),
  }
}

function overTree(tree: Schema['RoundTree'], today: Entry[], undone: Set<string>): Schema['RoundTree'] {
  const known = new Set(tree.entries.map((one) => one.id))
  const fresh = today.filter((one) => one.tree_id === tree.id && !known.has(one.id))
  const entries = [...tree.entries.filter((one) => !undone.has(one.id)), ...fresh]
  if (entries.length === tree.entries.length && !fresh.length) return tree
  const watered = fresh.some((one) => one.kind === 'water')
  return {
    ...tree,
    entries,
    next: watered ? null : tree.next,
    skipped: entries.some((one) => one.kind === 'skip'),
  }
}

/** What a newer plan wants otherwise than the one that was gone by: trees by their tag. */
export interface Changes {
  more: string[]
  less: string[]
  other: { tag: string; before: Schema['Next']; now: Schema['Next'] }[]
}

/** How today's open trees differ between the round that was gone by and the newer one; null where they do not. */
export function changesOf(before: Schema['RoundOut'], now: Schema['RoundOut']): Changes | null {
  const open = (round: Schema['RoundOut']) =>
    new Map(
      round.sites
        .flatMap((site) => site.stops.flatMap((stop) => stop.trees))
        .filter((tree) => tree.next && !tree.skipped)
        .map((tree) => [tree.id, tree] as const),
    )
  if (before.day !== now.day) return null
  const [was, is] = [open(before), open(now)]
  const more = [...is.values()].filter((tree) => !was.has(tree.id)).map((tree) => tree.tag)
  const less = [...was.values()].filter((tree) => !is.has(tree.id)).map((tree) => tree.tag)
  const other = [...is.values()].flatMap((tree) => {
    const old = was.get(tree.id)?.next
    return old && old.metric.litres !== tree.next!.metric.litres
      ? [{ tag: tree.tag, before: old, now: tree.next! }]
      : []
  })
  return more.length || less.length || other.length ? { more, less, other } : null
}
