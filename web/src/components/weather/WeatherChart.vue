<script setup lang="ts">
/** Rain stands on the line, what the air took hangs below it, a day a bar; the forecast hatched beyond today. */
import { scaleLinear } from 'd3-scale'
import { computed, useId } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { longDay, monthDay } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{ days: Schema['WeatherDayOut'][]; today: string; width: number }>()
const { t } = useI18n()
const id = useId()
const ABOVE = 110
const BELOW = 110
const LEFT = 56
const most = computed(() => {
  const top = Math.max(5, ...props.days.map((d) => Math.max(d.rain_mm ?? 0, d.eto_mm ?? 0)))
  return top > 40 ? Math.ceil(top / 20) * 20 : Math.ceil(top / 5) * 5
})
const up = computed(() => scaleLinear([0, most.value], [0, ABOVE - 14]))
const step = computed(() => (props.width - LEFT) / Math.max(1, props.days.length))
const at = computed(() => props.days.findIndex((d) => d.day >= props.today))
const marks = computed(() => props.days.map((d, i) => ({ d, i })).filter(({ i }) => i % 14 === 7))
const summary = computed(() => {
  const past = props.days.filter((d) => d.measured)
  const sum = (of: (d: Schema['WeatherDayOut']) => number | null) => past.reduce((n, d) => n + (of(d) ?? 0), 0)
  return t('weather.chartSummary', {
    n: past.length,
    rain: text(
      'rain',
      sum((d) => d.rain_mm),
    ),
    eto: text(
      'rain',
      sum((d) => d.eto_mm),
    ),
  })
})
const todayX = computed(() => LEFT + step.value * (at.value < 0 ? props.days.length : at.value))
</script>

<template>
  <figure>
    <svg
      :width="width"
      :height="ABOVE + BELOW + 26"
      :viewBox="`0 0 ${width} ${ABOVE + BELOW + 26}`"
      role="img"
      :aria-label="summary"
    >
      <defs>
        <pattern :id="`${id}-hatch`" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" x2="0" y1="0" y2="5" class="hatch" />
        </pattern>
      </defs>
      <rect class="soil" :x="LEFT" :y="ABOVE" :width="width - LEFT" :height="BELOW" />
      <g class="axis">
        <text :x="LEFT - 6" :y="ABOVE - up(most) + 5" text-anchor="end">
          {{ text('rain', most, 1) }}
        </text>
        <text :x="LEFT - 6" :y="ABOVE + up(most) + 5" text-anchor="end">
          {{ text('rain', most, 1) }}
        </text>
        <line :x1="LEFT" :x2="width" :y1="ABOVE - up(most)" :y2="ABOVE - up(most)" />
        <line :x1="LEFT" :x2="width" :y1="ABOVE + up(most)" :y2="ABOVE + up(most)" />
      </g>
      <g v-for="(d, i) in days" :key="d.day">
        <rect
          v-if="d.rain_mm && (d.measured || d.rain_chance >= 0.3)"
          class="rain"
          :class="{ maybe: !d.measured }"
          :x="LEFT + i * step + step * 0.15"
          :y="ABOVE - up(d.rain_mm)"
          :width="step * 0.7"
          :height="up(d.rain_mm)"
        />
        <rect
          v-if="d.eto_mm"
          class="eto"
          :x="LEFT + i * step + step * 0.15"
          :y="ABOVE"
          :width="step * 0.7"
          :height="up(d.eto_mm)"
          :fill="d.measured ? 'var(--straw)' : `url(#${id}-hatch)`"
        />
      </g>
      <line class="line" x1="0" :x2="width" :y1="ABOVE" :y2="ABOVE" />
      <line class="now" :x1="todayX" :x2="todayX" y1="4" :y2="ABOVE + BELOW" />
      <text class="now-word" :x="todayX - 6" y="16" text-anchor="end">{{ longDay(today) }}</text>
      <text :x="LEFT + 4" y="16" class="word">{{ t('weather.rain') }}</text>
      <text :x="LEFT + 4" :y="ABOVE + BELOW - 6" class="word">{{ t('weather.tookWord') }}</text>
      <text
        v-for="{ d, i } in marks"
        :key="d.day"
        class="date"
        :x="LEFT + i * step"
        :y="ABOVE + BELOW + 20"
        text-anchor="middle"
      >
        {{ monthDay(d.day) }}
      </text>
    </svg>
    <details>
      <summary>{{ t('chart.table') }}</summary>
      <div class="table" tabindex="0" role="region" :aria-label="t('weather.chartTitle')">
        <table class="ruled">
          <thead>
            <tr>
              <th scope="col">{{ t('weather.day') }}</th>
              <th scope="col" class="num">{{ t('weather.rain') }}</th>
              <th scope="col" class="num">{{ t('weather.eto') }}</th>
              <th scope="col">{{ t('chart.basis') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="d in days" :key="d.day">
              <td>{{ longDay(d.day) }}</td>
              <td class="num">{{ d.rain_mm === null ? '–' : text('rain', d.rain_mm) }}</td>
              <td class="num">{{ d.eto_mm === null ? '–' : text('rain', d.eto_mm) }}</td>
              <td>{{ t(`basis.${d.measured ? 'measured' : 'forecast'}`) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </details>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
summary {
  cursor: pointer;
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
  color: var(--water);
  text-decoration: underline;
  text-underline-offset: 4px;
}
.table {
  max-height: 420px;
  overflow: auto;
}
svg {
  display: block;
}
.soil {
  fill: var(--soil);
}
.hatch {
  stroke: var(--bark);
  stroke-width: 2;
}
.axis line {
  stroke: var(--hair);
}
.rain {
  fill: var(--water-fill);
  stroke: var(--ink);
  stroke-width: 0.75;
}
.maybe {
  fill: var(--ground);
  stroke: var(--water);
  stroke-dasharray: 2 2;
}
.eto {
  stroke: var(--ink);
  stroke-width: 0.75;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.now {
  stroke: var(--ink);
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  font-weight: 500;
  fill: var(--ink-2);
}
.word,
.now-word {
  fill: var(--ink);
  font-weight: 600;
}
</style>
