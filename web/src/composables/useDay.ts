/** A counter that moves when the demo's day does, so that open views fetch anew. */
import { ref } from 'vue'

export const dayCount = ref(0)
export function bumpDay() {
  dayCount.value++
}
