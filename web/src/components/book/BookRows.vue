<script setup lang="ts">
/** Rows of the book under their days; each can be taken back, water and readings put right. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import FeelDialog from '@/components/looking/FeelDialog.vue'
import PictureDialog from '@/components/trees/PictureDialog.vue'
import AmountDialog from '@/components/today/AmountDialog.vue'
import { useActing } from '@/composables/useActing'
import { useBook, type BookRow } from '@/composables/useBook'
import { onceOpen } from '@/composables/useLater'
import { useLogging } from '@/composables/useLogging'
import { pictureUrl, type Occasion } from '@/composables/usePictures'
import { clockTime, fullDay, weekdayShort } from '@/logic/dates'

/** named: each row names its tree; fixed: for print, nothing to press; open: for whoever has a link, nothing leads further. */
const props = defineProps<{
  rows: BookRow[]
  named: boolean
  reload: () => Promise<unknown>
  fixed?: boolean
  open?: boolean
}>()
const { t } = useI18n()
const { said, canUndo, canChange, entryOf, take } = useBook()
const { correct, feltInstead } = useLogging()
const { busy, said: done, failed, act } = useActing(() => props.reload())
const days = computed(() => {
  const found: { day: string; rows: BookRow[] }[] = []
  for (const row of props.rows) {
    if (found.at(-1)?.day !== row.day) found.push({ day: row.day, rows: [] })
    found.at(-1)!.rows.push(row)
  }
  return found
})
const changing = ref<BookRow | null>(null)
const amount = computed({
  get: () => changing.value?.kind === 'water',
  set: (open) => !open && (changing.value = null),
})
const feeling = computed({
  get: () => changing.value?.kind === 'reading',
  set: (open) => !open && (changing.value = null),
})
const feelingAsked = onceOpen(feeling)
const undo = (row: BookRow) => act(() => take(row), t('bookPage.took', { what: said(row) }), { typed: false })
function pour(litres: number) {
  const row = changing.value!
  void act(() => correct(entryOf(row), litres), t('bookPage.changed', { what: said(row) }))
}
const keepFelt: InstanceType<typeof FeelDialog>['$props']['keep'] = async (how, where, what) => {
  const row = changing.value!
  return act(() => feltInstead(entryOf(row), how, where, what), t('bookPage.changed', { what: said(row) }))
}
const TIMED = new Set<BookRow['kind']>(['water', 'reading', 'note', 'skip', 'checkup'])
/** When and by whom; of what nobody signs only what is known. */
const who = (r: BookRow) =>
  [
    r.at && TIMED.has(r.kind) ? clockTime(r.at, r.zone) : '',
    r.person ?? (TIMED.has(r.kind) ? t('bookPage.nobody') : ''),
  ]
    .filter(Boolean)
    .join(', ')
/** Those of the row whose picture is shown. */
const shown = ref('')
const pictures = computed(() => {
  const row = props.rows.find((r) => r.pictures.includes(shown.value))
  if (!row) return []
  const { day, person, kind } = row
  return row.pictures.map((id) => ({ id, day, person, occasion: kind as Occasion }))
})
const titleOf = (row: BookRow | null) => `${t('common.change')} ${row?.tree?.tag ?? ''}`
</script>

<template>
  <div class="rows">
    <p v-if="done" role="status">{{ done }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <section v-for="d in days" :key="d.day">
      <h3>{{ weekdayShort(d.day) }}, {{ fullDay(d.day) }}</h3>
      <ol>
        <li v-for="r in d.rows" :key="`${r.kind}${r.id}${r.tree?.id}`" :class="{ gone: r.undone }">
          <span class="kind narrow">{{ t(`bookPage.kind.${r.kind}`) }}</span>
          <span class="what">
            <span v-if="named && r.tree && open" class="tag">{{ r.tree.tag }}</span>
            <RouterLink
              v-else-if="named && r.tree"
              :to="{ name: 'tree-history', params: { id: r.tree.id } }"
              class="tag"
              >{{ r.tree.tag }}</RouterLink
            >
            <span v-else-if="named" class="tag">{{ r.site_name }}</span>
            <strong>{{ said(r) }}</strong>
            <span v-if="who(r)" class="quiet narrow">{{ who(r) }}</span>
            <span v-if="r.pictures.length && !fixed" class="shown no-print">
              <button v-for="(p, n) in r.pictures" :key="p" type="button" @click="shown = p">
                <img :src="pictureUrl(p, true)" :alt="t('pictures.one', { n: n + 1, what: said(r) })" loading="lazy" />
              </button>
            </span>
          </span>
          <span v-if="r.undone" class="quiet">{{ t('bookPage.wasUndone') }}</span>
          <span v-else-if="!fixed" class="acts no-print">
            <button
              v-if="canChange(r)"
              type="button"
              class="button plain"
              :disabled="busy"
              :aria-label="`${t('common.change')} ${said(r)}`"
              @click="changing = r"
            >
              {{ t('common.change') }}
            </button>
            <button
              v-if="canUndo(r)"
              type="button"
              class="button plain"
              :disabled="busy"
              :aria-label="`${t('common.undo')} ${said(r)}`"
              @click="undo(r)"
            >
              {{ t('common.undo') }}
            </button>
          </span>
        </li>
      </ol>
    </section>
    <PictureDialog v-model:shown="shown" :pictures="pictures" :reload="reload" />
    <AmountDialog v-model:open="amount" :title="titleOf(changing)" :planned="changing?.volume_l ?? 0" @log="pour" />
    <FeelDialog
      v-if="feelingAsked"
      v-model:open="feeling"
      :title="titleOf(changing)"
      :was="changing ? entryOf(changing) : null"
      :busy="busy"
      :said="done"
      :failed="failed"
      :keep="keepFelt"
    />
  </div>
</template>

<style scoped>
h3 {
  font-size: var(--text-1);
  margin-top: var(--space-4);
  border-bottom: 1px solid var(--ink);
}
li {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr) auto;
  gap: var(--space-1) var(--space-3);
  align-items: center;
  min-height: var(--tap);
  border-bottom: 1px solid var(--hair);
}
.kind {
  color: var(--ink-2);
}
.what {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
  align-items: baseline;
}
strong {
  font-weight: 500;
}
.tag {
  font-weight: 600;
  min-width: 64px;
}
.gone strong {
  text-decoration: line-through;
}
.acts {
  display: flex;
  gap: var(--space-3);
}
@media (max-width: 767px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0 var(--space-3);
    padding: var(--space-1) 0;
  }
  .kind {
    grid-area: 1 / 1;
  }
  .what {
    grid-area: 2 / 1;
  }
  .acts {
    grid-area: 1 / 2 / span 2;
  }
}
@media print {
  li {
    min-height: 0;
    break-inside: avoid;
  }
}
.shown {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
  margin-top: var(--space-1);
}
.shown button {
  padding: 0;
  border: 1px solid var(--hair);
  background: none;
  cursor: pointer;
}
.shown img {
  display: block;
  width: 64px;
  height: 64px;
  object-fit: cover;
}
</style>
