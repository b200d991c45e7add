<script setup lang="ts">
/** Litres and hours of a crew by day against what it has; days over it are hatched and named. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
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
  <div class="foot" role="rowgroup" :style="{ '--names': `${names}px`, '--days': shown }">
    <div role="row" class="line">
      <span role="rowheader" class="name"
        ><strong>{{ crew.name }}</strong> {{ t('fortnight.foot.litres', { unit: unitLabel('volume') }) }}</span
      >
      <span v-for="day in days" :key="day" role="gridcell" class="num">{{ litres(day) }}</span>
    </div>
    <div role="row" class="line soft">
      <span role="rowheader" class="name">{{
        limit ? t('fortnight.foot.hoursOf', { n: limit }) : t('fortnight.foot.hours')
      }}</span>
      <span v-for="day in days" :key="day" role="gridcell" class="num" :class="{ over: over(day) }">
        <template v-if="off(day) && !crew.minutes[day]">{{ t('fortnight.foot.off') }}</template>
        <template v-else
          >{{ hoursOf(crew.minutes[day]!)
          }}<span v-if="over(day)" class="visually-hidden">{{ t('fortnight.foot.over') }}</span></template
        >
      </span>
    </div>
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: var(--names) repeat(var(--days), minmax(0, 1fr));
  align-items: baseline;
  min-height: 32px;
}
.soft {
  color: var(--ink-2);
}
.num {
  text-align: center;
  font-family: var(--condensed);
}
.line:first-child .num {
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
  .name {
    font-family: var(--condensed);
    line-height: 1.1;
  }
  .line:first-child .num {
    font-family: var(--condensed);
  }
}
</style>
