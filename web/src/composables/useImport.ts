/** A file on its way in: sent, watched while it is read or stored in the background, ended, said yes to. */
import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, take, type Schema } from '@/api/client'

const FIRST_LOOK_MS = 150
const LONGEST_MS = 1000
const UNDER_WAY = ['reading', 'storing', 'undoing']
export const isUnderWay = (row: Pick<Schema['ImportOut'], 'state'> | null) => UNDER_WAY.includes(row?.state ?? '')

/** Ask how far an import is until the background is done with it. A lost answer is asked for again. */
export async function watchImport(id: string, told: (row: Schema['ImportOut']) => void, on: () => boolean) {
  for (let pause = FIRST_LOOK_MS; on(); pause = Math.min(pause * 1.5, LONGEST_MS)) {
    await new Promise((done) => setTimeout(done, pause))
    if (!on()) return
    try {
      const row = await take(api.GET('/api/imports/{import_id}', { params: { path: { import_id: id } } }))
      told(row)
      if (!isUnderWay(row)) return
    } catch (e) {
      if (!(e instanceof Problem) || (e.status !== 0 && e.status !== 503)) throw e
    }
  }
}

export function useImport(stationId?: () => string) {
  const { t } = useI18n()
  const file = ref<File | null>(null)
  const row = shallowRef<Schema['ImportOut'] | null>(null)
  const failed = ref('')
  const sending = ref(false)
  let current = ''
  onScopeDispose(() => (current = ''))

  async function act(send: () => Promise<Schema['ImportOut']>) {
    failed.value = ''
    sending.value = true
    const mine = current
    try {
      row.value = await send()
      sending.value = false
      await watchImport(
        mine,
        (now) => mine === current && (row.value = now),
        () => mine === current && isUnderWay(row.value),
      )
      if (mine === current && row.value?.state === 'refused') failed.value = row.value.problem
    } catch (e) {
      failed.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
    } finally {
      sending.value = false
    }
  }
  const here = () => ({ path: { import_id: current } })
  const bring = (chosen: File) => {
    file.value = chosen
    row.value = null
    const id = (current = newId())
    return act(() => {
      const form = new FormData()
      form.append('file', chosen)
      const query = stationId ? { station_id: stationId() } : {}
      const options = { body: form as never, bodySerializer: (body: unknown) => body as FormData }
      return persist(() =>
        api.PUT('/api/imports/{import_id}', { params: { path: { import_id: id }, query }, ...options }),
      )
    })
  }
  const readAs = (mapping: Record<string, string>) =>
    act(() => take(api.POST('/api/imports/{import_id}/read', { params: here(), body: { mapping } })))
  const store = () => act(() => persist(() => api.POST('/api/imports/{import_id}/store', { params: here() })))
  async function cancel() {
    const ended = here()
    current = ''
    row.value = file.value = null
    await take(api.POST('/api/imports/{import_id}/cancel', { params: ended })).catch(() => undefined)
  }
  const busy = computed(() => sending.value || isUnderWay(row.value))
  return { file, row, failed, sending, busy, bring, readAs, store, cancel }
}
