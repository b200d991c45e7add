/** What a handle of a drip drawing stands for, in words, with its measure. */
import type { Ref } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { measureOf, type Handle } from '@/logic/handles'
import { text } from '@/units'

export function useHandleWords(choice: Ref<Schema['ChoiceIO'] | null>, obstacles: Ref<Schema['ObstacleIO'][]>) {
  const { t } = useI18n()
  function handleSays(handle: Handle): string {
    if (!choice.value) return ''
    const { away, bearing } = measureOf(handle, { choice: choice.value, obstacles: obstacles.value })
    const kind = obstacles.value[handle.at]?.kind ?? 'paving'
    return t(`drip.edit.handle.${handle.part}`, {
      away: text(handle.part === 'beside' ? 'large' : 'small', away, handle.part === 'beside' ? 2 : 1),
      n: handle.at + 1,
      bearing: Math.round(bearing ?? 0),
      what: t(`drip.beside.${kind}`),
    })
  }
  return { handleSays }
}
