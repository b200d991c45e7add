/** A planting's measures while they are typed: each change asks what it comes to. */
import { ref, shallowRef } from 'vue'
import type { Schema } from '@/api/client'
import { useLook } from '@/composables/useLook'

type Choice = Schema['PlantingChoiceIO']
type Sheet = Schema['PlantingSheet']

export function usePlanting(ask: (choice: Choice, flare: number, signal: AbortSignal) => Promise<Sheet>) {
  const sheet = shallowRef<Sheet | null>(null)
  const choice = ref<Choice | null>(null)
  const flare = ref(0)
  const typed = ref(false)
  const { look, forget, errors } = useLook(
    (signal) => (choice.value ? ask(choice.value, flare.value, signal) : null),
    (found) => (sheet.value = found),
    { field: 'raise_m' },
  )
  function fill(from: Sheet, over: number) {
    forget()
    sheet.value = from
    choice.value = { ...from.choice }
    flare.value = over
    typed.value = false
  }
  function measure(value: Choice) {
    choice.value = value
    typed.value = true
    look()
  }
  function over(value: number) {
    flare.value = value
    typed.value = true
    look()
  }
  return { sheet, choice, flare, typed, errors, fill, measure, over }
}
