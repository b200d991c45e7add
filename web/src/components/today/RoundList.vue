<script setup lang="ts">
/** The stops as ruled lines; a done row keeps its undo until the day ends. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import { pourOf, type Row } from '@/composables/useRound'
import { clockTime } from '@/logic/dates'
import { text } from '@/units'

defineProps<{
  groups: { key: string; site: Schema['RoundSite']; stop: string | null; rows: Row[]; done: number; all: number }[]
  currentId: string | null
  busy: boolean
}>()
defineEmits<{ pick: [id: string]; undo: [entry: Schema['EntryOut']] }>()
const { t } = useI18n()
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
        <li v-for="{ tree } in g.rows" :key="tree.id" class="row" :class="{ current: tree.id === currentId }">
          <button
            v-if="tree.next"
            type="button"
            class="pick"
            :aria-label="t('today.pick', { tag: tree.tag })"
            :aria-pressed="tree.id === currentId"
            @click="$emit('pick', tree.id)"
          >
            <CutawayDrawing :section="tree.section" size="small" :width="44" :height="32" :ground="12" />
            <strong>{{ tree.tag }}</strong>
            <span class="place">{{ tree.place }}</span>
            <span v-if="tree.next.late_days > 0" class="warn">{{ t('state.late') }}</span>
            <span class="amount">{{ text('volume', pourOf(tree.next).litres) }}</span>
          </button>
          <div v-else class="pick done">
            <CutawayDrawing :section="tree.section" size="small" :width="44" :height="32" :ground="12" />
            <strong>{{ tree.tag }}</strong>
            <span class="place">{{ tree.place }}</span>
          </div>
          <div v-for="e in tree.entries" :key="e.id" class="entry">
            <span>{{
              e.volume_l
                ? t('today.doneRow', {
                    amount: text('volume', e.volume_l),
                    time: clockTime(e.happened_at, g.site.zone),
                  })
                : e.note
            }}</span>
            <button
              type="button"
              class="button plain"
              :disabled="busy"
              :aria-label="`${t('common.undo')} ${tree.tag}`"
              @click="$emit('undo', e)"
            >
              {{ t('common.undo') }}
            </button>
          </div>
        </li>
      </ul>
    </li>
  </ol>
</template>

<style scoped>
.stops > li + li {
  margin-top: 22px;
}
h3 {
  display: flex;
  gap: 10px;
  align-items: baseline;
  font-size: 20px;
  border-bottom: 2px solid var(--ink);
  padding-bottom: 4px;
}
.site {
  font-weight: 500;
  font-size: 16px;
  color: var(--ink-2);
}
.sum {
  margin-left: auto;
  white-space: nowrap;
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
  gap: 12px;
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
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.amount {
  font-weight: 600;
  font-size: 20px;
  white-space: nowrap;
}
.entry {
  display: flex;
  align-items: center;
  gap: 8px;
  grid-column: 2;
  justify-content: end;
  white-space: nowrap;
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
    gap: 8px;
  }
  .place {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
    line-height: 1.15;
    white-space: normal;
  }
  .pick.done {
    grid-template-columns: 44px 58px;
  }
  .pick.done .place {
    display: none;
  }
}
</style>
