/** What runs beside the pages: what waits is sent, plans are taken along, a newer version of the program is noticed. */
import { ref, watch } from 'vue'
import { api, take } from '@/api/client'
import { lost, returned } from '@/api/connection'
import { isCarried, lookAlong, takeAlong } from './along'
import { flush, needs, tryAgain, waits } from './outbox'
import type { Row } from './rows'
import { tidy } from './store'
import { wordsOf } from './words'

const SEND_EVERY_MS = 20_000
const ALONG_AFTER_MS = 6000
const ALONG_EVERY_MS = 15 * 60_000
const ASK_EVERY_MS = 60_000
const LOOK_FOR_NEWER_EVERY_MS = 3_600_000
const CREW = 'june-shade-crew'

/** A newer version of the program is there, to be loaded when it suits. */
export const newer = ref(false)
let loadIt: () => unknown = () => location.reload()
export const loadNewer = () => loadIt()

const lateRows = () => needs.value.filter((row) => row.state === 'late' && row.under)
const asked = new Set<string>()

/** Owners are asked to let in what was entered before this phone was signed out. */
async function askOwners(late: Row[]) {
  for (const device_id of new Set(late.map((row) => row.under!))) {
    const items = late
      .filter((row) => row.under === device_id)
      .slice(0, 500)
      .map((row) => ({
        words: `${[row.tag, wordsOf(row)].filter(Boolean).join(': ')}`.slice(0, 300),
        made_at: new Date(row.moment.at_ms).toISOString(),
      }))
    await take(api.PUT('/api/devices/{device_id}/late', { params: { path: { device_id } }, body: { items } }))
  }
  for (const row of late) asked.add(row.id)
}
/** Asked once more with what there is by now; what was let in is sent. */
async function lookAtLate() {
  const late = lateRows()
  if (!late.length || lost.value) return
  await askOwners(late)
  await tryAgain(late)
}

const quietly = (work: () => Promise<unknown>) => () => void work().catch(() => undefined)

function install() {
  if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return
  void import('virtual:pwa-register').then(({ registerSW }) => {
    const update = registerSW({
      onNeedRefresh: () => (newer.value = true),
      onRegisteredSW: (_, registration) => {
        setInterval(() => void registration?.update().catch(() => undefined), LOOK_FOR_NEWER_EVERY_MS)
      },
    })
    loadIt = () => update(true)
  })
}

export function startOffline() {
  install()
  quietly(tidy)()
  quietly(async () => navigator.storage?.persist())() // what waits must not go when the browser makes room
  quietly(lookAlong)()
  watch(returned, quietly(flush))
  watch(needs, () => {
    const fresh = lateRows().filter((row) => !asked.has(row.id))
    if (fresh.length) void askOwners(lateRows()).catch(() => undefined)
  })
  setInterval(
    () => (waits.value.length && !lost.value ? void flush().catch(() => undefined) : undefined),
    SEND_EVERY_MS,
  )
  setInterval(quietly(lookAtLate), ASK_EVERY_MS)
  if (!isCarried()) return
  const along = () => {
    if (document.visibilityState === 'visible') void takeAlong({ crew: localStorage.getItem(CREW) ?? '' })
  }
  setTimeout(along, ALONG_AFTER_MS)
  setInterval(along, ALONG_EVERY_MS)
}
