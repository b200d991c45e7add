/** `v-lead`: what a lead sets is not offered to those who may not; their page shows it all the same. */
import { watchEffect, type ObjectDirective, type WatchHandle } from 'vue'
import { useSession } from './useSession'

const stops = new WeakMap<HTMLElement, WatchHandle>()

export const vLead: ObjectDirective<HTMLElement> = {
  mounted(el) {
    const { may } = useSession()
    stops.set(
      el,
      watchEffect(() => {
        el.hidden = !may('lead')
      }),
    )
  },
  unmounted(el) {
    stops.get(el)?.()
  },
}
