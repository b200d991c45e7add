/** Writing to the log: water, undo, correction. Each entry has its id before it is sent. */
import { api, newId, persist, type Schema } from '@/api/client'
import { useClock } from './useClock'
import { deviceId, useDevice } from './useDevice'

type Entry = Schema['EntryIn']

export function useLogging() {
  const { nowIso } = useClock()
  const { person, ensurePerson } = useDevice()

  async function put(entry: Omit<Entry, 'happened_at' | 'device_id' | 'person_id'>, happenedAt?: string) {
    if (!(await ensurePerson())) return null
    const id = newId()
    const body: Entry = {
      ...entry,
      happened_at: happenedAt ?? nowIso(),
      device_id: deviceId(),
      person_id: person.value?.id ?? null,
    }
    return persist(() => api.PUT('/api/log/{entry_id}', { params: { path: { entry_id: id } }, body }))
  }

  const water = (treeId: string, litres: number, minutes: number | null) =>
    put({ tree_id: treeId, kind: 'water', volume_l: litres, duration_min: minutes })

  const note = (treeId: string, words: string) => put({ tree_id: treeId, kind: 'note', note: words })

  const undo = (entry: Schema['EntryOut']) => put({ tree_id: entry.tree_id, kind: 'void', voids: entry.id })

  const correct = (entry: Schema['EntryOut'], litres: number) =>
    put(
      { tree_id: entry.tree_id, kind: 'water', volume_l: litres, corrects: entry.id, void_id: newId() },
      entry.happened_at,
    )

  return { water, note, undo, correct }
}
