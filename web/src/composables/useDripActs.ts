/** What is done with a tree's drip: a layout laid, taken back, copied to its row, tasks carried out, what stands beside it
 * kept. Sent twice each is once. */
import { useI18n } from 'vue-i18n'
import { api, newId, persist, type Schema } from '@/api/client'
import { useActing } from '@/composables/useActing'
import type { useDripDraft } from '@/composables/useDripDraft'

export function useDripActs(treeId: () => string, draft: ReturnType<typeof useDripDraft>) {
  const { t } = useI18n()
  const { page, choice, obstacles, typed, load } = draft
  const { busy, said, failed, act } = useActing(load)
  let batchId = newId()
  let layoutId = newId()

  async function saveObstacles(wholeLine: boolean) {
    await persist(() =>
      api.PUT('/api/trees/{tree_id}/obstacles', {
        params: { path: { tree_id: treeId() } },
        body: { obstacles: obstacles.value, whole_line: wholeLine },
      }),
    )
  }
  const keepBeside = (wholeLine: boolean) => act(() => saveObstacles(wholeLine), t('drip.besideKept'))
  async function accept(c: Schema['ChoiceIO'], words: string) {
    const done = await act(async () => {
      if (typed.value) await saveObstacles(false)
      return persist(() =>
        api.PUT('/api/drip-layouts/{layout_id}', {
          params: { path: { layout_id: layoutId } },
          body: { tree_id: treeId(), choice: c, note: '' },
        }),
      )
    }, words)
    if (done) layoutId = newId()
  }
  /** Every tree of its line gets what lies on this drawing. */
  async function copyToRow() {
    const line = page.value?.line
    if (!line || !choice.value) return
    const done = await act(
      async () => {
        if (typed.value) await saveObstacles(false)
        return persist(() =>
          api.PUT('/api/lines/{line_id}/layouts/{batch_id}', {
            params: { path: { line_id: line.id, batch_id: batchId } },
            body: { choice: choice.value },
          }),
        )
      },
      t('drip.copied', { n: page.value!.line_trees }),
    )
    if (done) batchId = newId()
  }
  const takeBack = () =>
    act(
      () =>
        persist(() =>
          api.POST('/api/drip-layouts/{layout_id}/withdraw', {
            params: { path: { layout_id: page.value!.layout!.id } },
          }),
        ),
      t('drip.tookBack'),
      { typed: false },
    )
  /** A task is done by accepting the layout that it makes. */
  function carryOut(one: Schema['DripTask']) {
    const now = page.value!.looks[0]!.look.choice
    if (one.year > 0) return accept(page.value!.looks[one.year]!.look.choice, t('drip.carriedOut'))
    return accept({ ...now, ...(one.kind === 'bury' ? { buried: true } : { perforated: true }) }, t('drip.carriedOut'))
  }
  return { busy, said, failed, accept, copyToRow, keepBeside, takeBack, carryOut }
}
