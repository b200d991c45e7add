/** A planting's measures while they are typed: each change asks what it comes to; only the newest answer counts. */
import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { Problem, type Schema, type Wrong } from '@/api/client'

type Choice = Schema['PlantingChoiceIO']
type Sheet = Schema['PlantingSheet']

export function usePlanting(ask: (choice: Choice, flare: number, signal: AbortSignal) => Promise<Sheet>) {
  const sheet = shallowRef<Sheet | null>(null)
  const choice = ref<Choice | null>(null)
  const flare = ref(0)
  const typed = ref(false)
  const errors = ref<Record<string, Wrong>>({})
  let asking: AbortController | null = null
  const look = useDebounceFn(async () => {
    if (!choice.value) return
    asking?.abort()
    asking = new AbortController()
    try {
      sheet.value = await ask(choice.value, flare.value, asking.signal)
      errors.value = {}
    } catch (e) {
      if (e instanceof Problem) errors.value = Object.keys(e.fields).length ? e.fields : { raise_m: e.detail }
      else if (!(e instanceof DOMException)) throw e
    }
  }, 250)
  function fill(from: Sheet, over: number) {
    asking?.abort()
    sheet.value = from
    choice.value = { ...from.choice }
    flare.value = over
    typed.value = false
    errors.value = {}
  }
  function measure(value: Choice) {
    choice.value = value
    typed.value = true
    void look()
  }
  function over(value: number) {
    flare.value = value
    typed.value = true
    void look()
  }
  return { sheet, choice, flare, typed, errors, fill, measure, over }
}
