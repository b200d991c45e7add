/** What is done with a tree's mulch: a ring kept for it or for its stop, laid, taken back. */
import { useI18n } from 'vue-i18n'
import { api, newId, persist, take, type Schema } from '@/api/client'
import { useActing } from '@/composables/useActing'
import type { useMulchDraft } from '@/composables/useMulchDraft'

export function useMulchActs(treeId: () => string, draft: ReturnType<typeof useMulchDraft>) {
  const { t } = useI18n()
  const { page, choice, typed, load } = draft
  const { busy, said, failed, act } = useActing(load)
  const keep = (body: Schema['MulchChoiceIO'] | null) =>
    act(
      () => persist(() => api.PUT('/api/mulch-choices', { body: { tree_ids: [treeId()], choice: body } })),
      t('mulch.kept'),
    )
  /** The same ring for every tree where the truck parks here. */
  const keepForStop = () =>
    act(async () => {
      const tree = page.value!.tree
      const query = { site_id: tree.site_id, stop: tree.stop!, limit: 500 }
      const found = await take(api.GET('/api/trees', { params: { query } }))
      const ids = found.trees.map((x) => x.id)
      return persist(() => api.PUT('/api/mulch-choices', { body: { tree_ids: ids, choice: choice.value } }))
    }, t('mulch.kept'))
  const ringIn = () =>
    act(
      () =>
        persist(() =>
          api.POST('/api/trees/same', {
            body: { trees: [treeId()], set: { edging_m: page.value!.edging_wanted_m } },
          }),
        ),
      t('mulch.edgingKept'),
    )
  let entry = newId()
  async function laid() {
    const done = await act(
      async () => {
        if (typed.value)
          await persist(() => api.PUT('/api/mulch-choices', { body: { tree_ids: [treeId()], choice: choice.value } }))
        return persist(() =>
          api.PUT('/api/mulch-entries/{entry_id}', {
            params: { path: { entry_id: entry } },
            body: { tree_id: treeId(), note: '' },
          }),
        )
      },
      page.value?.tree.method === 'emitters' ? t('mulch.laidSaid') : t('mulch.laidPlain'),
    )
    if (done) entry = newId()
  }
  const takeBack = (entryId: string) =>
    act(
      () =>
        persist(() => api.POST('/api/mulch-entries/{entry_id}/withdraw', { params: { path: { entry_id: entryId } } })),
      t('mulch.undone'),
      { typed: false },
    )
  return { busy, said, failed, keep, keepForStop, ringIn, laid, takeBack }
}
