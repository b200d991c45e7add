/** Pictures that were taken and wait to be sent: each has its id before it is, so that sent again it is one. */
import { getCurrentScope, onScopeDispose, ref } from 'vue'
import { api, newId, persist, type Schema } from '@/api/client'
import { useDevice } from './useDevice'

export interface Taken {
  id: string
  file: File
  url: string
}
export type Occasion = Schema['PictureOut']['occasion']

export function usePictures() {
  const { person } = useDevice()
  const taken = ref<Taken[]>([])

  function add(files: Iterable<File>) {
    for (const file of files) taken.value.push({ id: newId(), file, url: URL.createObjectURL(file) })
  }
  function drop(one: Taken) {
    URL.revokeObjectURL(one.url)
    taken.value = taken.value.filter((other) => other.id !== one.id)
  }
  const clear = () => [...taken.value].forEach(drop)
  if (getCurrentScope()) onScopeDispose(clear)

  /** All of them to a tree, at what they were taken at; those that are there are not sent again. */
  async function send(treeId: string, occasion: Occasion, entryId: string | null = null) {
    for (const one of [...taken.value]) {
      const form = new FormData()
      form.append('file', one.file)
      form.append('tree_id', treeId)
      form.append('occasion', occasion)
      if (entryId) form.append('entry_id', entryId)
      if (person.value) form.append('person_id', person.value.id)
      const options = { body: form as never, bodySerializer: (body: unknown) => body as FormData }
      await persist(() =>
        api.PUT('/api/pictures/{picture_id}', { params: { path: { picture_id: one.id } }, ...options }),
      )
    }
  }
  return { taken, add, drop, clear, send }
}

export type Sending = ReturnType<typeof usePictures>['send']

/** Where a picture's file is. */
export const pictureUrl = (id: string, small = false) => `/api/pictures/${id}/file${small ? '?small=true' : ''}`
