<script setup lang="ts">
/** Where trees of a line are gone: what of each run falls there for nobody, until somebody stops the emitters up. */
import { useI18n } from 'vue-i18n'
import { api, persist, type Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import { useActing } from '@/composables/useActing'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'

type Gap = Schema['GapOut']
const props = defineProps<{ page: Schema['LinePageOut']; lineId: string }>()
const emit = defineEmits<{ changed: [page: Schema['LinePageOut']] }>()
const { t } = useI18n()
const { busy, said, failed, act } = useActing(() => Promise.resolve())
function words(gap: Gap): string {
  const told = { tag: gap.tag, day: fullDay(gap.ended_on), n: gap.emitters.length, lost: text('volume', gap.lost_l, 1) }
  if (gap.closed) return t('drip.row.gapClosed', told)
  return t(gap.lost_l > 0 ? 'drip.row.gapLost' : 'drip.row.gapReached', told)
}
const does = (gap: Gap) => t(gap.closed ? 'drip.row.gapOpen' : 'drip.row.gapClose')
const set = (gap: Gap) =>
  act(
    async () => {
      const path = { line_id: props.lineId, tree_id: gap.tree_id }
      const body = { closed: !gap.closed }
      emit('changed', await persist(() => api.PUT('/api/lines/{line_id}/gaps/{tree_id}', { params: { path }, body })))
    },
    t(gap.closed ? 'drip.row.gapOpened' : 'drip.row.gapKept', { tag: gap.tag }),
  )
</script>

<template>
  <ul>
    <li v-for="gap in page.gaps" :key="gap.tree_id">
      <span :class="{ warn: !gap.closed && gap.lost_l > 0 }">{{ words(gap) }}</span>
      <ActButton class="no-print" :disabled="busy" :aria-label="`${does(gap)}: ${gap.tag}`" @act="set(gap)">{{
        does(gap)
      }}</ActButton>
    </li>
  </ul>
  <p v-if="said" role="status">{{ said }}</p>
  <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-1) var(--space-3);
}
</style>
