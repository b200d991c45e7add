/** A planting's measures while they are typed: each change asks what it comes to. */
import { ref, shallowRef } from 'vue'
import type { Schema } from '@/api/client'
import { useLook } from '@/composables/useLook'

type Choice = Schema['PlantingChoiceIO']
type Figures = Schema['PlantingFiguresOut']

export function usePlanting(ask: (choice: Choice, flare: number, signal: AbortSignal) => Promise<Figures>) {
  const figures = shallowRef<Figures | null>(null)
  const choice = ref<Choice | null>(null)
  const flare = ref(0)
  const typed = ref(false)
  const { look, forget, errors } = useLook(
    (signal) => (choice.value ? ask(choice.value, flare.value, signal) : null),
    (found) => (figures.value = found),
    { field: 'raise_m' },
  )
  function fill(from: Figures, over: number) {
    forget()
    figures.value = from
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
  return { figures, choice, flare, typed, errors, fill, measure, over }
}
