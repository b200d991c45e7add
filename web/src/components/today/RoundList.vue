<script setup lang="ts">
/** The stops as ruled lines; a done row keeps its undo until the day ends. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import ActButton from '@/components/common/ActButton.vue'
import type { Schema } from '@/api/client'
import AgainstOrder from '@/components/common/AgainstOrder.vue'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import { useFeeling } from '@/composables/useFeeling'
import { pourOf, type Row } from '@/composables/useRound'
import { clockTime } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{
  groups: { key: string; site: Schema['RoundSite']; stop: string | null; rows: Row[]; done: number; all: number }[]
  currentId: string | null
  busy: boolean
  /** the run that a box has for a site's line today */
  runOf: (siteId: string, line: string | undefined) => Schema['BoxRunOut'] | null
}>()
defineEmits<{
  pick: [id: string]
  undo: [entry: Schema['EntryOut']]
  wrong: [row: Row, entry: Schema['EntryOut']]
  whole: [rows: Row[], stop: string]
}>()
const { t } = useI18n()
const { feltWords } = useFeeling()
/** A stop longer than this opens on its first trees, the one in front always among them; the rest at a tap. */
const LONG = 40
const wholeStops = ref(new Set<string>())
function shown(g: { key: string; rows: Row[] }): Row[] {
  if (g.rows.length <= LONG || wholeStops.value.has(g.key)) return g.rows
  const at = g.rows.findIndex((r) => r.tree.id === props.currentId)
  return g.rows.slice(0, Math.max(LONG, at + 2))
}
const showAll = (key: string) => (wholeStops.value = new Set([...wholeStops.value, key]))
const open = (rows: Row[]) => rows.filter((r) => r.tree.next && !r.tree.skipped)
/** "All 12, 16 L each" where each gets the same, else only how many. */
function wholeWords(rows: Row[]): string {
  const litres = new Set(open(rows).map((r) => pourOf(r.tree.next!).litres))
  const n = open(rows).length
  return litres.size === 1
    ? t('today.wholeStopSame', { n, amount: text('volume', [...litres][0]!) })
    : t('today.wholeStop', { n })
}
function entryWords(e: Schema['EntryOut'], zone: string): string {
  if (e.volume_l)
    return t('today.doneRow', { amount: text('volume', e.volume_l), time: clockTime(e.happened_at, zone) })
  if (e.kind === 'reading') return feltWords(e)
  if (e.reason) return t(`skip.${e.reason}`)
  return [e.seen ? t(`seen.${e.seen}`) : '', e.note].filter(Boolean).join(': ')
}
</script>

<template>
  <ol class="stops">
    <li v-for="g in groups" :key="g.key">
      <h3>
        <span>{{ g.stop ?? t('today.noStop') }}</span>
        <span class="site narrow">{{ g.site.name }}</span>
        <span class="sum">{{ text('volume', g.all, 0) }}</span>
      </h3>
      <ul>
        <li v-if="open(g.rows).length > 1" class="whole no-print">
          <ActButton class="plain" :disabled="busy" @act="$emit('whole', open(g.rows), g.stop ?? g.site.name)">{{
            wholeWords(g.rows)
          }}</ActButton>
        </li>
        <li
          v-for="r in shown(g)"
          :key="r.tree.id"
          class="row"
          :class="{ current: r.tree.id === currentId, many: wholeStops.has(g.key) }"
        >
          <button
            v-if="r.tree.next && !r.tree.skipped"
            type="button"
            class="pick"
            :aria-pressed="r.tree.id === currentId"
            @click="$emit('pick', r.tree.id)"
          >
            <CutawayDrawing :section="r.tree.section" size="small" :width="44" :height="32" :ground="12" />
            <span class="visually-hidden">{{ t('today.pick') }}</span>
            <strong>{{ r.tree.tag }}</strong>
            <span class="place">{{ r.tree.place }}</span>
            <span v-if="r.fillFirst" class="narrow">{{ t('today.fillFirst') }}</span>
            <span v-else-if="runOf(g.site.id, r.tree.line?.name)" class="narrow">{{
              t('boxes.byBox', { at: clockTime(runOf(g.site.id, r.tree.line?.name)!.starts_at, g.site.zone) })
            }}</span>
            <span v-else-if="r.tree.next.late_days > 0" class="warn">{{ t('state.late') }}</span>
            <span v-else />
            <span class="amount">{{ text('volume', pourOf(r.tree.next).litres) }}</span>
          </button>
          <div v-else class="pick done">
            <CutawayDrawing :section="r.tree.section" size="small" :width="44" :height="32" :ground="12" />
            <strong>{{ r.tree.tag }}</strong>
            <span class="place">{{ r.tree.place }}</span>
          </div>
          <div v-for="e in r.tree.entries" :key="e.id" class="entry">
            <span>{{ entryWords(e, g.site.zone) }}</span>
            <span v-if="e.twice" class="warn">{{ t('today.twice') }}</span>
            <AgainstOrder v-if="e.against.length" :against="e.against" />
            <button
              v-if="e.volume_l"
              type="button"
              class="button plain"
              :disabled="busy"
              :aria-label="`${t('today.wrong')} ${r.tree.tag}`"
              @click="$emit('wrong', r, e)"
            >
              {{ t('today.wrong') }}
            </button>
            <button
              type="button"
              class="button plain"
              :disabled="busy"
              :aria-label="`${t('common.undo')} ${r.tree.tag}`"
              @click="$emit('undo', e)"
            >
              {{ t('common.undo') }}
            </button>
          </div>
        </li>
        <li v-if="shown(g).length < g.rows.length" class="whole no-print">
          <button type="button" class="button plain" @click="showAll(g.key)">
            {{ t('today.moreTrees', { n: g.rows.length - shown(g).length }) }}
          </button>
        </li>
      </ul>
    </li>
  </ol>
</template>

<style scoped>
.whole .button {
  width: 100%;
  min-height: 56px;
  justify-content: flex-start;
}
.stops > li + li {
  margin-top: var(--space-5);
}
h3 {
  display: flex;
  gap: var(--space-3);
  align-items: baseline;
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
}
.site {
  font-weight: 500;
  font-size: var(--text-1);
  color: var(--ink-2);
}
.sum {
  margin-left: auto;
  white-space: nowrap;
}
.row.many {
  content-visibility: auto; /* of three hundred rows those in sight are drawn; of few all are, so that none moves */
  contain-intrinsic-size: auto 57px;
}
.row {
  border-bottom: 1px solid var(--hair);
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
}
.row.current {
  border-bottom: 2px solid var(--water);
}
.pick {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 44px 64px 1fr auto auto;
  gap: var(--space-3);
  align-items: center;
  text-align: left;
  min-height: 56px;
  background: transparent;
  border: 0;
  padding: 0;
  cursor: pointer;
}
.pick:hover .place {
  text-decoration: underline;
}
.pick.done {
  grid-column: auto;
  grid-template-columns: 44px 64px 1fr;
  cursor: default;
  color: var(--ink-2);
}
.pick.done:hover .place {
  text-decoration: none;
}
.current .pick strong {
  color: var(--water);
}
.place {
  line-height: 1.15;
  overflow-wrap: anywhere;
}
.amount {
  font-weight: 600;
  font-size: var(--text-3);
  white-space: nowrap;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-1) var(--space-3);
  grid-column: 2;
  justify-content: end;
  min-height: 56px;
}
.entry .button {
  min-height: 56px;
}
@media (max-width: 767px) {
  h3 {
    flex-wrap: wrap;
  }
  .pick {
    grid-template-columns: 44px 58px 1fr auto auto;
    gap: var(--space-2);
  }
  .pick.done {
    grid-template-columns: 58px;
    min-height: var(--tap);
  }
  .pick.done > :first-child {
    display: none;
  }
  .entry {
    font-size: var(--text-1);
    gap: 0 var(--space-3);
  }
  .pick.done .place {
    display: none;
  }
}
</style>
