<script setup lang="ts">
/** Litres and hours of a crew by day against what it has; days over it are hatched and named. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import FootRow from '@/components/fortnight/FootRow.vue'
import { hoursOf, isOver } from '@/composables/useWeeks'
import { isUs, show, unitLabel } from '@/units'

const props = defineProps<{ crew: Schema['CrewAhead']; first: number; shown: number; names: number }>()
const { t } = useI18n()
const days = computed(() => Array.from({ length: props.shown }, (_, i) => i + props.first))
const litres = (day: number) => show('volume', (isUs.value ? props.crew.litres_us : props.crew.litres)[day]!, 0).value
const limit = computed(() => {
  const known = props.crew.limits.filter((m): m is number => m !== null && m > 0)
  return known.length ? hoursOf(Math.max(...known)) : null
})
const over = (day: number) => isOver(props.crew.minutes[day]!, props.crew.limits[day])
const off = (day: number) => props.crew.limits[day] === 0
</script>

<template>
  <div role="rowgroup">
    <FootRow :names="names" :columns="shown">
      <template #head
        ><strong>{{ crew.name }}</strong> {{ t('fortnight.foot.litres', { unit: unitLabel('volume') }) }}</template
      >
      <span v-for="day in days" :key="day" role="gridcell" class="num litres">{{ litres(day) }}</span>
    </FootRow>
    <FootRow :names="names" :columns="shown" class="soft">
      <template #head>{{ limit ? t('fortnight.foot.hoursOf', { n: limit }) : t('fortnight.foot.hours') }}</template>
      <span v-for="day in days" :key="day" role="gridcell" class="num" :class="{ over: over(day) }">
        <template v-if="off(day) && !crew.minutes[day]">{{ t('fortnight.foot.off') }}</template>
        <template v-else
          >{{ hoursOf(crew.minutes[day]!)
          }}<span v-if="over(day)" class="visually-hidden">{{ t('fortnight.foot.over') }}</span></template
        >
      </span>
    </FootRow>
  </div>
</template>

<style scoped>
.soft {
  color: var(--ink-2);
}
.num {
  text-align: center;
  font-family: var(--condensed);
}
.num.litres {
  font-weight: 600;
  font-family: inherit;
}
.over {
  color: var(--warning);
  font-weight: 600;
  background: repeating-linear-gradient(45deg, transparent 0 5px, var(--hair) 5px 6px);
}
.over::before {
  content: '▲ ';
  font-size: 0.75em;
}
@media (max-width: 767px) {
  .num.litres {
    font-family: var(--condensed);
  }
}
</style>
