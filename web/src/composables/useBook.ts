/** Rows of the book in words; each taken back or put right the way it was written down. */
import { useI18n } from 'vue-i18n'
import { api, persist, type Schema } from '@/api/client'
import { useFeeling } from '@/composables/useFeeling'
import { useHow } from '@/composables/useHow'
import { useLogging } from '@/composables/useLogging'
import { useRoutines } from '@/composables/useRoutines'
import { useSession } from '@/composables/useSession'
import { text } from '@/units'
import { fixed } from '@/logic/numbers'
import { treeName } from '@/i18n'

export type BookRow = Schema['BookRow']
/** What people look for together. */
export const WHAT: Record<string, BookRow['kind'][]> = {
  all: [],
  water: ['water', 'skip'],
  felt: ['reading', 'checkup', 'thirst'],
  seen: ['note'],
  work: ['mulch', 'care', 'layout', 'proof', 'catch', 'soil'],
  stock: ['planted', 'own', 'ended'],
  ways: ['routine', 'changed'],
}
const FIXED = new Set<BookRow['kind']>(['planted', 'changed'])
const LEADS = new Set<BookRow['kind']>(['thirst', 'routine', 'own'])

export function useBook() {
  const { t, te } = useI18n()
  const { feltWords } = useFeeling()
  const { time } = useHow()
  const { nameOf, says: routineSays, takeBack } = useRoutines()
  const { undo } = useLogging()
  const { may } = useSession()

  const material = (name: string | null | undefined) => {
    if (!name) return t('bookPage.says.bare')
    return te(`material.${name}`) ? t(`material.${name}`) : t(`mulch.avoidNames.${name}`)
  }
  function said(r: BookRow): string {
    switch (r.kind) {
      case 'water':
        return [text('volume', r.volume_l!), r.duration_min ? time(r.duration_min) : ''].filter(Boolean).join(', ')
      case 'reading':
        return t('feel.logged', { felt: feltWords(r), with: t(`feel.hand.${r.how}`) })
      case 'note':
        return [r.seen ? t(`seen.${r.seen}`) : '', r.note].filter(Boolean).join(': ')
      case 'skip':
        return [t(`skip.${r.reason}`), r.note].filter(Boolean).join(': ')
      case 'checkup':
        return [t(`checks.verdict.${r.verdict}`), r.note].filter(Boolean).join(': ')
      case 'thirst':
        return t(`bookPage.says.thirst.${r.answer}`, { m: r.multiplier == null ? '' : fixed(r.multiplier, 1) })
      case 'mulch':
        return t(`bookPage.says.${r.subject === 'check' ? 'check' : 'laid'}`, {
          material: material(r.material),
          depth: text('small', r.depth_m ?? 0, 0),
        })
      case 'care':
        return t(`bookPage.says.care.${r.act}`, { task: t(`task.${r.subject}.title`, { part: '' }).trim() })
      case 'layout':
        return t(
          'bookPage.says.layout',
          { n: r.emitters ?? 0, flow: text('flow', r.flow_l_per_h ?? 0) },
          r.emitters ?? 0,
        )
      case 'proof':
        return t('bookPage.says.proof', { time: time(r.minutes ?? 0), depth: text('small', r.depth_m ?? 0, 0) })
      case 'catch':
        return t('bookPage.says.catch', { n: r.emitters ?? 0, time: time(r.minutes ?? 0) }, r.emitters ?? 0)
      case 'planted':
        return [r.tree && treeName(r.tree.common), t(`kind.${r.subject}`)].filter(Boolean).join(', ')
      case 'ended':
        return [t(`end.kind.${r.subject}`), r.cause].filter(Boolean).join(': ')
      case 'soil':
        return [t(`soil.test.${r.subject}.title`), r.note].filter(Boolean).join(': ')
      case 'routine':
        return r.routine ? `${nameOf(r.routine)}: ${routineSays(r.routine)}` : ''
      case 'own':
        return [t(`bookPage.says.own.${r.subject}`, { length: text('small', r.growth_m ?? 0, 0) }), r.note]
          .filter(Boolean)
          .join(': ')
      case 'changed':
        return t('bookPage.says.changed', { method: t(`method.${r.method}`) })
    }
  }

  const canUndo = (r: BookRow) => !r.undone && !FIXED.has(r.kind) && (may('lead') || !LEADS.has(r.kind))
  const canChange = (r: BookRow) =>
    !r.undone && (r.kind === 'water' || (r.kind === 'reading' && r.how !== 'probe')) && r.tree && !r.tree.ended_on
  /** As an entry of the log, for what puts one right. */
  const entryOf = (r: BookRow) =>
    ({ ...r, tree_id: r.tree!.id, happened_at: r.at!, local_date: r.day }) as unknown as Schema['EntryOut']

  function take(r: BookRow): Promise<unknown> {
    const id = r.id
    switch (r.kind) {
      case 'checkup':
        return persist(() => api.POST('/api/checkups/{checkup_id}/withdraw', { params: { path: { checkup_id: id } } }))
      case 'thirst':
        return persist(() =>
          api.POST('/api/thirst-answers/{answer_id}/withdraw', { params: { path: { answer_id: id } } }),
        )
      case 'mulch':
        return persist(() => api.POST('/api/mulch-entries/{entry_id}/withdraw', { params: { path: { entry_id: id } } }))
      case 'care':
        return persist(() => api.POST('/api/care-acts/{act_id}/withdraw', { params: { path: { act_id: id } } }))
      case 'layout':
        return persist(() =>
          api.POST('/api/drip-layouts/{layout_id}/withdraw', { params: { path: { layout_id: id } } }),
        )
      case 'proof':
        return persist(() => api.POST('/api/drip-proofs/{proof_id}/withdraw', { params: { path: { proof_id: id } } }))
      case 'catch':
        return persist(() => api.POST('/api/drip-catches/{catch_id}/withdraw', { params: { path: { catch_id: id } } }))
      case 'ended':
        return persist(() => api.POST('/api/tree-ends/{end_id}/withdraw', { params: { path: { end_id: id } } }))
      case 'soil':
        return persist(() => api.POST('/api/soil-tests/{test_id}/withdraw', { params: { path: { test_id: id } } }))
      case 'routine':
        return takeBack(id)
      case 'own':
        return persist(() => api.POST('/api/own-acts/{act_id}/withdraw', { params: { path: { act_id: id } } }))
      default:
        return undo(entryOf(r))
    }
  }
  return { said, canUndo, canChange, entryOf, take }
}
