/** Pictures that were taken and wait to be sent: each has its id before it is, so that sent again it is one. */
import { getCurrentScope, onScopeDispose, ref } from 'vue'
import { newId, type Schema } from '@/api/client'
import { written } from '@/offline/outbox'
import { useClock } from './useClock'
import { useDevice } from './useDevice'

export interface Taken {
  id: string
  file: File
  url: string
}
/** The id and time of what is written down, from its first try on. */
export interface Entry {
  id: string
  at: string
}
export type Occasion = Schema['PictureOut']['occasion']

export function usePictures() {
  const { person } = useDevice()
  const { nowIso } = useClock()
  const taken = ref<Taken[]>([])
  let tried: (Entry & { says: string }) | null = null

  function add(files: Iterable<File>) {
    for (const file of files) taken.value.push({ id: newId(), file, url: URL.createObjectURL(file) })
  }
  function drop(one: Taken) {
    URL.revokeObjectURL(one.url)
    taken.value = taken.value.filter((other) => other.id !== one.id)
  }
  function clear() {
    tried = null
    ;[...taken.value].forEach(drop)
  }
  /** An entry tried again is the same one; where it says something else by now it is another, with its own pictures. */
  function entryOf(says: string): Entry {
    if (tried?.says !== says) {
      if (tried) for (const one of taken.value) one.id = newId()
      tried = { says, id: newId(), at: nowIso() }
    }
    return tried
  }
  if (getCurrentScope()) onScopeDispose(clear)

  /** All of them to a tree, at what they were taken at; those that are there are not sent again. */
  async function send(treeId: string, occasion: Occasion, entryId: string | null = null) {
    for (const one of [...taken.value]) {
      const body = { tree_id: treeId, occasion, entry_id: entryId, person_id: person.value?.id ?? null }
      await written({ kind: 'picture', id: one.id, body, file: one.file })
    }
  }
  return { taken, add, drop, clear, entryOf, send }
}

export type Sending = ReturnType<typeof usePictures>['send']

/** Where a picture's file is. */
export const pictureUrl = (id: string, small = false) => `/api/pictures/${id}/file${small ? '?small=true' : ''}`
