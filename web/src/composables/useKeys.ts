/** Single keys for the lead: silent while something is typed or a dialog is open, and off with one switch. */
import { useEventListener, useLocalStorage } from '@vueuse/core'

export const keysOn = useLocalStorage('june-shade-keys', true)

function typing(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}

/** Call `act` for each key that is meant for the page; it may take the event. */
export function useKeys(act: (key: string, event: KeyboardEvent) => void) {
  useEventListener('keydown', (e: KeyboardEvent) => {
    const asked = typing(e.target) || e.ctrlKey || e.metaKey || e.altKey
    if (asked || document.querySelector('.el-overlay:not([style*="none"])')) return
    if (keysOn.value || e.key === '?') act(e.key, e)
  })
}
