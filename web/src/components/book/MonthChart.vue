<script setup lang="ts">
/** A month by day: water poured and rain, each standing on the soil line. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { fullDay } from '@/logic/dates'
import { show, text, unitLabel } from '@/units'

const props = defineProps<{ days: Schema['MonthDayOut'][] }>()
const { t } = useI18n()
const W = 720
const H = 150
const LEFT = 48
const RIGHT = 48
const step = computed(() => (W - LEFT - RIGHT) / props.days.length)
const mostWater = computed(() => Math.max(1, ...props.days.map((d) => d.poured_l)))
const mostRain = computed(() => Math.max(1, ...props.days.map((d) => d.rain_mm ?? 0)))
const up = (value: number, most: number) => ((H - 34) * value) / most
const x = (i: number) => LEFT + i * step.value
const words = computed(() =>
  props.days
    .filter((d) => d.poured_l > 0 || (d.rain_mm ?? 0) >= 0.1)
    .map((d) =>
      t('bookPage.chartDay', {
        day: fullDay(d.day),
        water: text('volume', d.poured_l, 0),
        rain: d.rain_mm === null ? t('bookPage.noRain') : text('rain', d.rain_mm),
      }),
    )
    .join('; '),
)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${W} ${H + 28}`" role="img" :aria-label="t('bookPage.chart', { words })">
      <text :x="LEFT - 6" y="16" text-anchor="end">{{ unitLabel('volume') }}</text>
      <text :x="LEFT - 6" y="38" text-anchor="end">{{ show('volume', mostWater, 0).value }}</text>
      <text :x="W - RIGHT + 6" y="16">{{ unitLabel('rain') }}</text>
      <text :x="W - RIGHT + 6" y="38">{{ show('rain', mostRain).value }}</text>
      <g v-for="(d, i) in days" :key="d.day">
        <rect
          v-if="d.poured_l > 0"
          class="water"
          :x="x(i) + step * 0.08"
          :width="step * 0.42"
          :y="H - up(d.poured_l, mostWater)"
          :height="up(d.poured_l, mostWater)"
        />
        <rect
          v-if="(d.rain_mm ?? 0) >= 0.1"
          class="rain"
          :x="x(i) + step * 0.52"
          :width="step * 0.4"
          :y="H - up(d.rain_mm!, mostRain)"
          :height="up(d.rain_mm!, mostRain)"
        />
        <text v-if="i % 7 === 0" :x="x(i) + step / 2" :y="H + 20" text-anchor="middle">
          {{ Number(d.day.slice(8)) }}
        </text>
      </g>
      <line :x1="LEFT - 12" :x2="W - RIGHT + 12" :y1="H" :y2="H" />
    </svg>
    <figcaption>
      <span class="key" />{{ t('chart.poured') }} <span class="key rain-key" />{{ t('rehearse.chart.rain') }}
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: var(--space-4) 0;
  max-width: 860px;
}
svg {
  width: 100%;
  height: auto;
  display: block;
}
.water {
  fill: var(--water);
}
.rain {
  fill: var(--rain-pale);
  stroke: var(--water);
}
line {
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  fill: var(--ink-2);
}
figcaption {
  display: flex;
  align-items: center;
  gap: var(--space-2);
}
.key {
  width: 12px;
  height: 12px;
  border: 1px solid var(--ink);
  background: var(--water);
}
.rain-key {
  background: var(--rain-pale);
  margin-left: var(--space-3);
}
</style>
