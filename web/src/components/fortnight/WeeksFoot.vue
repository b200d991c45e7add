<script setup lang="ts">
/** Each week's water of all sites against what orders allow and trees want. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import FootRow from '@/components/fortnight/FootRow.vue'
import { plannedL, useWeeks } from '@/composables/useWeeks'

const props = defineProps<{ weeks: Schema['WeekOut'][]; first: number; shown: number; names: number }>()
const { t } = useI18n()
const { litres } = useWeeks()
const WEEK = 7
const visible = computed(() => props.weeks.slice(props.first / WEEK, (props.first + props.shown) / WEEK))
</script>

<template>
  <div v-if="visible.length" role="rowgroup">
    <FootRow :names="names" :columns="visible.length">
      <template #head
        ><strong>{{ t('fortnight.foot.all') }}</strong> {{ t('fortnight.foot.week') }}</template
      >
      <span
        v-for="week in visible"
        :key="week.first_day"
        role="gridcell"
        :aria-colspan="WEEK"
        class="week"
        :class="{ short: week.short_of.includes('water') }"
      >
        <b>{{ litres(plannedL(week)) }}</b>
        <span v-if="week.allowed_l !== null">{{ t('fortnight.foot.allowed', { n: litres(week.allowed_l) }) }}</span>
        <span>{{ t('fortnight.foot.wanted', { n: litres(week.wanted_l) }) }}</span>
      </span>
    </FootRow>
  </div>
</template>

<style scoped>
.week {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 0 var(--space-3);
  font-family: var(--condensed);
}
.short {
  color: var(--warning);
}
.short b::before {
  content: '▲ ';
  font-size: 0.75em;
}
</style>
