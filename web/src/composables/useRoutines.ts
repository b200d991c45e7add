/** Routines in words, choosing one and taking it back. */
import { useI18n } from 'vue-i18n'
import { api, persist, type Schema } from '@/api/client'
import { useDevice } from '@/composables/useDevice'
import { useHow } from '@/composables/useHow'
import { sent, type Routine } from '@/logic/routines'
import { text } from '@/units'

export type Whom = Pick<Schema['RoutineChoiceIn'], 'tree_id' | 'stop_id' | 'site_id'>

export function useRoutines() {
  const { t } = useI18n()
  const { time } = useHow()
  const { person, ensurePerson } = useDevice()
  const nameOf = (routine: Pick<Routine, 'name'>) => t(`rehearse.name.${routine.name}`)
  const says = (r: Routine) =>
    t(`rehearse.says.${r.name === 'fixed' && r.every_days === 1 ? 'fixed1' : r.name}`, {
      litres: text('volume', r.litres ?? 0),
      twice: text('volume', 2 * (r.litres ?? 0)),
      days: r.every_days ?? 0,
      mm: text('rain', r.mm ?? 0),
      flow: text('flow', r.flow_l_per_h ?? 0),
      hours: time(60 * (r.hours ?? 0)),
      share: Math.round(100 * (r.dry_limit ?? 0)),
    })

  /** null where nobody says who does it. */
  async function use(id: string, routine: Routine, whom: Whom) {
    if (!(await ensurePerson())) return null
    const body = { ...whom, routine: sent(routine), person_id: person.value?.id ?? null }
    return persist(() => api.PUT('/api/routines/{choice_id}', { params: { path: { choice_id: id } }, body }))
  }
  const takeBack = (id: string) =>
    persist(() => api.POST('/api/routines/{choice_id}/withdraw', { params: { path: { choice_id: id } } }))
  return { nameOf, says, use, takeBack }
}
