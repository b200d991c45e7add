/** Parts of a page that wait to be asked for: their script comes when the page has come to rest, or when needed. */
import { defineAsyncComponent, ref, watch, watchEffect, type Component, type Ref } from 'vue'

const AT_REST_MS = 3000

export function later<C extends Component>(load: () => Promise<{ default: C }>) {
  const soon = () => void load().catch(() => undefined)
  if ('requestIdleCallback' in window) setTimeout(() => requestIdleCallback(soon), AT_REST_MS)
  else setTimeout(soon, AT_REST_MS)
  return defineAsyncComponent(async () => (await load()).default)
}

/** True once what is to be seen first has been painted: long lists and sheets for print come after it. */
export function oncePainted(there: () => unknown) {
  const painted = ref(false)
  watchEffect(() => {
    if (!painted.value && there()) requestAnimationFrame(() => setTimeout(() => (painted.value = true)))
  })
  return painted
}

/** True from the first time on that it is open: what is drawn then stays, so that it can close in its own time. */
export function onceOpen(open: Ref<unknown>) {
  const was = ref(Boolean(open.value))
  watch(open, (now) => (was.value ||= Boolean(now)))
  return was
}
