<script setup lang="ts">
/** The soil line of a tree: 30 days back, 14 ahead. */
import { computed, nextTick, onMounted, ref, useId } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { clear, DIGIT_PX, soilline } from '@/drawing/soilline'
import { useFeeling } from '@/composables/useFeeling'
import { longDay, monthDay } from '@/logic/dates'
import { amount, isUs, text, unitLabel } from '@/units'
import { figure } from '@/logic/numbers'

const props = defineProps<{
  days: Schema['ChartDay'][]
  today: string
  limit: number
  width: number
  above: number
  below: number
  scrolls?: boolean
  readings?: Schema['ReadingOut'][]
}>()
const { t } = useI18n()
const { feltWords } = useFeeling()
const id = useId()
type Day = Schema['ChartDay']

const poured = (d: Day) => amount('volume', d.poured_l)
const planned = (d: Day) => amount('volume', isUs.value ? d.planned_us_l : d.planned_l)
const rain = (d: Day) => amount('rain', d.rain_mm)
/** Room at the left for the axis' figures, wider where they have four digits. */
const left = computed(() => {
  const most = Math.max(0, ...props.days.map((d) => Math.max(poured(d), planned(d))))
  return 34 + (most > 400 ? (String(Math.ceil(most)).length - 2) * DIGIT_PX : 0)
})
const c = computed(() =>
  soilline(
    props.days,
    props.today,
    props.limit,
    { width: props.width, above: props.above, below: props.below, left: left.value, right: 38 },
    (d) => Math.max(poured(d), planned(d)),
    rain,
    (props.readings ?? []).filter((r) => props.days.some((d) => d.day === r.day)).map((r) => r.dryness),
  ),
)
const marks = computed(() =>
  props.days.map((d, i) => ({ d, i })).filter(({ i }) => (i - c.value.at) % 7 === 0 && i !== c.value.at),
)
/** A figure over a planned day that would touch the one before it is left to the table. */
const figures = computed(() =>
  clear(
    props.days
      .map((d, i) => ({ d, i, words: figure(planned(d), 1) }))
      .filter(({ d, i }) => i >= c.value.at && planned(d) > 0)
      .map((f) => {
        const wide = f.words.length * DIGIT_PX
        const x = f.i === c.value.at ? c.value.x(f.i) + 4 : c.value.x(f.i) + c.value.step * 0.3
        return {
          ...f,
          x,
          from: f.i === c.value.at ? x : x - wide / 2,
          to: f.i === c.value.at ? x + wide : x + wide / 2,
        }
      }),
  ),
)
/** What was felt, where it stood on its day. */
const felt = computed(() =>
  (props.readings ?? [])
    .map((r) => ({ r, i: props.days.findIndex((d) => d.day === r.day) }))
    .filter(({ i }) => i >= 0)
    .map(({ r, i }) => ({
      r,
      x: c.value.x(i) + c.value.step / 2,
      y: c.value.y(r.dryness),
    })),
)
const feltOn = (day: string) =>
  (props.readings ?? [])
    .filter((r) => r.day === day)
    .map(feltWords)
    .join('; ')
const ahead = computed(() => props.days.length - c.value.at)
const summary = computed(() => {
  const coming = props.days
    .filter((d) => d.planned_l > 0)
    .map((d) => `${longDay(d.day)} ${text('volume', isUs.value ? d.planned_us_l : d.planned_l)}`)
  const now = props.days[c.value.at]?.dryness
  return t('chart.summary', {
    dry: Math.round((now ?? 0) * 100),
    coming: coming.join(', ') || t('chart.none', ahead.value),
  })
})
const scroller = ref<HTMLElement | null>(null)
onMounted(async () => {
  await nextTick()
  if (props.scrolls && scroller.value) scroller.value.scrollLeft = c.value.todayX - scroller.value.clientWidth * 0.55
})
</script>

<template>
  <figure class="soilline">
    <div
      ref="scroller"
      :class="{ scrolls }"
      :tabindex="scrolls ? 0 : undefined"
      :role="scrolls ? 'region' : undefined"
      :aria-label="scrolls ? t('chart.swipe') : undefined"
    >
      <svg
        :width="width"
        :height="above + below + 30"
        :viewBox="`0 0 ${width} ${above + below + 30}`"
        role="img"
        :aria-label="summary"
      >
        <defs>
          <pattern :id="`${id}-hatch`" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" x2="0" y1="0" y2="7" class="hatch" />
          </pattern>
          <pattern :id="`${id}-rain`" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="4" height="4" class="rain-ground" />
            <line x1="0" x2="0" y1="0" y2="4" class="rain-line" />
          </pattern>
        </defs>
        <rect class="soil" x="0" :y="above" :width="width" :height="below + 30" />
        <path class="hung" :d="c.area" />
        <path class="band" :d="c.band" />
        <rect
          class="ahead"
          :fill="`url(#${id}-hatch)`"
          :x="c.todayX"
          :y="above"
          :width="Math.max(0, width - 38 - c.todayX)"
          :height="below"
        />

        <g class="axes">
          <text :x="left - 4" :y="above - c.up(c.mostWater, c.mostWater) + 4" text-anchor="end">
            {{ figure(c.mostWater, 1) }}
          </text>
          <text :x="left - 4" :y="above - c.up(c.mostWater, c.mostWater) - 12" text-anchor="end">
            {{ unitLabel('volume') }}
          </text>
          <text :x="width - 34" :y="above - c.up(c.mostRain, c.mostRain) + 4">{{ figure(c.mostRain, 2) }}</text>
          <text :x="width - 34" :y="above - c.up(c.mostRain, c.mostRain) - 12">{{ unitLabel('rain') }}</text>
          <line
            :x1="left"
            :x2="width - 38"
            :y1="above - c.up(c.mostWater, c.mostWater)"
            :y2="above - c.up(c.mostWater, c.mostWater)"
          />
        </g>

        <g v-for="(d, i) in days" :key="d.day">
          <rect
            v-if="rain(d) > 0 && (d.rain_chance >= 0.3 || i < c.at)"
            class="rain"
            :class="{ maybe: d.rain_chance < 1 }"
            :fill="`url(#${id}-rain)`"
            :x="c.x(i) + c.step * 0.55"
            :y="above - c.up(rain(d), c.mostRain)"
            :width="c.step * 0.4"
            :height="c.up(rain(d), c.mostRain)"
          />
          <rect
            v-if="poured(d) > 0"
            class="poured"
            :x="c.x(i) + c.step * 0.08"
            :y="above - c.up(poured(d), c.mostWater)"
            :width="c.step * 0.44"
            :height="c.up(poured(d), c.mostWater)"
          />
          <rect
            v-if="planned(d) > 0"
            class="planned"
            :x="c.x(i) + c.step * 0.08"
            :y="above - c.up(planned(d), c.mostWater)"
            :width="c.step * 0.44"
            :height="c.up(planned(d), c.mostWater)"
          />
        </g>
        <g class="figures">
          <text
            v-for="{ d, i, x, words } in figures"
            :key="d.day"
            :x="x"
            :y="above - c.up(planned(d), c.mostWater) - 5"
            :text-anchor="i === c.at ? 'start' : 'middle'"
          >
            {{ words }}
          </text>
        </g>

        <path class="past" :d="c.past" />
        <path class="coming" :d="c.coming" />
        <circle v-for="f in felt" :key="f.r.id" class="felt" :cx="f.x" :cy="f.y" r="5">
          <title>{{ `${longDay(f.r.day)}: ${feltWords(f.r)}` }}</title>
        </circle>
        <line class="limit" :x1="left" :x2="width - 38" :y1="c.limitY" :y2="c.limitY" />
        <text class="limit-word" :x="c.todayX - 8" :y="c.limitY + 18" text-anchor="end">
          {{ t('chart.limit', { share: Math.round(limit * 100) }) }}
        </text>
        <text class="scale" :x="left - 4" :y="above + 16" text-anchor="end">0</text>
        <text class="scale" :x="left - 4" :y="c.limitY + 5" text-anchor="end">{{ Math.round(limit * 100) }}</text>
        <text class="scale" :x="left - 4" :y="c.bottom - 6" text-anchor="end">{{ t('chart.percentDry') }}</text>
        <line class="line" x1="0" :x2="width" :y1="above" :y2="above" />
        <line class="today" :x1="c.todayX" :x2="c.todayX" :y1="8" :y2="c.bottom" />
        <text class="today-word" :x="c.todayX + 5" :y="16">{{ longDay(today) }}</text>
        <text v-for="{ d, i } in marks" :key="d.day" class="date" :x="c.x(i)" :y="c.bottom + 22" text-anchor="middle">
          {{ monthDay(d.day) }}
        </text>
      </svg>
    </div>
    <svg v-if="scrolls" class="pinned" :width="left + 12" :height="above + below" aria-hidden="true">
      <rect class="sky" :width="left + 12" :height="above - 1" />
      <rect class="soil" y="0" :width="left + 12" :height="below" :transform="`translate(0 ${above + 1})`" />
      <text :x="left + 8" :y="above - c.up(c.mostWater, c.mostWater) + 4" text-anchor="end">
        {{ figure(c.mostWater, 1) }}
      </text>
      <text :x="left + 8" :y="above - c.up(c.mostWater, c.mostWater) - 12" text-anchor="end">
        {{ unitLabel('volume') }}
      </text>
      <text :x="left + 8" :y="above + 16" text-anchor="end">0</text>
      <text :x="left + 8" :y="c.limitY + 5" text-anchor="end">{{ Math.round(limit * 100) }}</text>
      <text :x="left + 8" :y="c.bottom - 6" text-anchor="end">{{ t('chart.percentDry') }}</text>
    </svg>
    <figcaption class="narrow">
      <span class="key poured-key" />{{ t('chart.poured') }} <span class="key planned-key" />{{ t('chart.planned') }}
      <span class="key rain-key" />{{ t('chart.rain') }} <span class="key dry-key" />{{ t('chart.dryness') }}
      <span class="key band-key" />{{ t('chart.band') }}
      <template v-if="felt.length"><span class="key felt-key" />{{ t('chart.felt') }}</template>
    </figcaption>
    <details>
      <summary>{{ t('chart.table') }}</summary>
      <div class="table">
        <table class="ruled">
          <thead>
            <tr>
              <th scope="col">{{ t('chart.day') }}</th>
              <th scope="col" class="num">{{ t('chart.drynessShort') }}</th>
              <th v-if="felt.length" scope="col">{{ t('chart.felt') }}</th>
              <th scope="col" class="num">{{ t('chart.rainShort') }}</th>
              <th scope="col" class="num">{{ t('chart.poured') }}</th>
              <th scope="col" class="num">{{ t('chart.planned') }}</th>
              <th scope="col" class="num">{{ t('chart.eto') }}</th>
              <th scope="col">{{ t('chart.basis') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="d in days" :key="d.day">
              <td>{{ longDay(d.day) }}</td>
              <td class="num">{{ d.dryness === null ? '–' : `${Math.round(d.dryness * 100)}\u00a0%` }}</td>
              <td v-if="felt.length">{{ feltOn(d.day) }}</td>
              <td class="num">{{ text('rain', d.rain_mm) }}</td>
              <td class="num">{{ d.poured_l ? text('volume', d.poured_l) : '–' }}</td>
              <td class="num">{{ d.planned_l ? text('volume', isUs ? d.planned_us_l : d.planned_l) : '–' }}</td>
              <td class="num">{{ text('rain', d.eto_mm) }}</td>
              <td>{{ t(`basis.${d.basis}`) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </details>
  </figure>
</template>

<style scoped>
.soilline {
  margin: 0;
}
.scrolls {
  overflow-x: auto;
}
svg {
  display: block;
}
.soil {
  fill: var(--soil);
}
.hung {
  fill: var(--ball);
}
.band {
  fill: var(--root);
  opacity: 0.16;
}
.band-key {
  background: color-mix(in srgb, var(--root) 22%, var(--ball));
}
.hatch {
  stroke: var(--soil-edge);
  stroke-width: 1;
}
.ahead {
  opacity: 0.55;
}
.rain {
  stroke: var(--ink);
  stroke-width: 1;
}
.rain-ground {
  fill: var(--rain-pale);
}
.rain-line {
  stroke: var(--water);
  stroke-width: 1.6;
}
.maybe {
  stroke-dasharray: 2 2;
}
.poured {
  fill: var(--water);
}
.planned {
  fill: var(--ground);
  stroke: var(--water);
  stroke-width: 1.6;
}
.figures text {
  fill: var(--water);
  font-weight: 600;
}
.past,
.coming {
  fill: none;
  stroke: var(--root);
  stroke-width: 2.4;
  stroke-linejoin: round;
}
.coming {
  stroke-dasharray: 5 3;
}
.felt {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2.5;
}
.felt-key {
  border: 2.5px solid var(--ink);
  border-radius: 50%;
  width: 10px;
  height: 10px;
}
.limit {
  stroke: var(--ink);
  stroke-width: 1.4;
  stroke-dasharray: 7 4;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.today {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.axes line {
  stroke: var(--hair);
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  font-weight: 500;
  fill: var(--ink);
}
.axes text,
.scale,
.date {
  fill: var(--ink-2);
}
.today-word,
.limit-word {
  font-weight: 600;
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 5px;
}
.limit-word {
  stroke: var(--ball);
}
.soilline {
  position: relative;
}
.pinned {
  position: absolute;
  left: -16px;
  top: 0;
  pointer-events: none;
}
.sky {
  fill: var(--ground);
}
figcaption {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-2);
  padding: var(--space-2) 0 var(--space-1);
}
.key {
  width: 12px;
  height: 12px;
  margin-left: var(--space-3);
  border: 1px solid var(--ink);
}
.poured-key {
  background: var(--water);
  margin-left: 0;
}
.planned-key {
  border: 2px solid var(--water);
}
.rain-key {
  background: repeating-linear-gradient(45deg, var(--rain-pale) 0 2px, var(--water) 2px 3.4px);
}
.dry-key {
  height: 0;
  width: 18px;
  border: 0;
  border-top: 3px solid var(--root);
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
</style>
