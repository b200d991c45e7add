/** Where the keys are. What had them may go, or be out of use for a moment: then they are given back nearby. */
import { nextTick } from 'vue'
import type { Router } from 'vue-router'

const IN_A_DIALOG = '.el-overlay, [role="dialog"]'
const DIALOG_GONE_MS = 500
let trail: HTMLElement[] = []

function remember(event: FocusEvent) {
  const at = event.target
  if (!(at instanceof HTMLElement) || at.closest(IN_A_DIALOG)) return
  trail = []
  for (let e: HTMLElement | null = at; e && e !== document.body; e = e.parentElement) trail.push(e)
}

const isLost = () => document.activeElement === null || document.activeElement === document.body
const takesFocus = (e: HTMLElement) =>
  e.isConnected && e.getClientRects().length > 0 && !(e as HTMLButtonElement).disabled

function giveBack() {
  if (!isLost()) return
  const place = trail.find(takesFocus)
  if (!place) return
  if (place.tabIndex < 0) place.setAttribute('tabindex', '-1')
  place.focus({ preventScroll: true })
}

/** After something was done: the keys go on where they were, or at what is left around there. */
export async function keepFocus() {
  await nextTick()
  giveBack()
  setTimeout(giveBack, DIALOG_GONE_MS)
}

/** A new page is read from its beginning, unless the keys are on something of it already, as on a tab. */
export function followFocus(router: Router) {
  document.addEventListener('focusin', remember)
  router.afterEach(async (to, from) => {
    if (to.path === from.path || !from.matched.length) return
    await nextTick()
    const main = document.getElementById('main')
    const at = document.activeElement
    if (main && !(at && at !== main && main.contains(at)) && !at?.closest(IN_A_DIALOG))
      main.focus({ preventScroll: true })
  })
}
