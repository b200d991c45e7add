<script setup lang="ts">
/** A season under every routine: rain and the shown routine's water stand on one soil line, dryness hangs from it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { useRoutines } from '@/composables/useRoutines'
import { fullDay, monthDay, monthShort } from '@/logic/dates'
import { hanging, marks } from '@/logic/routines'
import { show, text, unitLabel } from '@/units'

const props = defineProps<{ season: Schema['RehearsalOut']; shown: number; width: number }>()
const { t } = useI18n()
const { nameOf } = useRoutines()
const ABOVE = 88
const BELOW = 210
const LEFT = 46
const RIGHT = 44
const every = computed(() => props.season.routines)
const chosen = computed(() => every.value[props.shown]!)
const balance = computed(() => every.value.find((r) => r.routine.name === 'balance'))
const deepest = computed(() => Math.max(props.season.limit * 1.3, ...every.value.map((r) => Math.max(...r.dryness))))
const area = computed(() => ({ left: LEFT, width: props.width - LEFT - RIGHT, top: ABOVE, height: BELOW }))
const step = computed(() => area.value.width / props.season.dates.length)
const path = (r: Schema['RehearsedOut']) => hanging(r.dryness, area.value, deepest.value)
const y = (dry: number) => ABOVE + (BELOW * dry) / deepest.value
const most = (values: number[]) => Math.max(1e-6, ...values)
const bar = (value: number, top: number) => ((ABOVE - 26) * value) / top
const mostWater = computed(() => most(chosen.value.poured_l))
const mostRain = computed(() => most(props.season.rain_mm))
const raining = computed(() => props.season.rain_mm.map((mm, i) => ({ mm, i })).filter(({ mm }) => mm >= 0.1))
const pouring = computed(() => chosen.value.poured_l.map((l, i) => ({ l, i })).filter(({ l }) => l > 0))
const long = computed(() => props.season.dates.length > 45)
const word = (iso: string) => (long.value ? monthShort(Number(iso.slice(5, 7)) - 1) : monthDay(iso))
const summary = computed(() =>
  t('rehearse.chart.summary', {
    first: fullDay(props.season.season.first),
    last: fullDay(props.season.season.last),
    lines: every.value
      .map((r) =>
        t('rehearse.chart.line', {
          name: nameOf(r.routine),
          water: text('volume', r.gross_l, 0),
          n: r.waterings,
          dry: Math.round(100 * Math.max(...r.dryness)),
        }),
      )
      .join(' '),
  }),
)
</script>

<template>
  <figure>
    <svg
      :width="width"
      :height="ABOVE + BELOW + 28"
      :viewBox="`0 0 ${width} ${ABOVE + BELOW + 28}`"
      role="img"
      :aria-label="summary"
    >
      <rect class="soil" x="0" :y="ABOVE" :width="width" :height="BELOW + 28" />
      <g class="axis">
        <text :x="LEFT - 6" y="16" text-anchor="end">{{ unitLabel('volume') }}</text>
        <text :x="LEFT - 6" y="34" text-anchor="end">
          {{ mostWater > 1e-3 ? show('volume', mostWater, 0).value : '' }}
        </text>
        <text :x="width - RIGHT + 6" y="16">{{ unitLabel('rain') }}</text>
        <text :x="width - RIGHT + 6" y="34">{{ mostRain > 0.1 ? show('rain', mostRain, 1).value : '' }}</text>
      </g>
      <rect
        v-for="{ mm, i } in raining"
        :key="`r${i}`"
        class="rain"
        :x="LEFT + i * step + step * 0.5"
        :y="ABOVE - bar(mm, mostRain)"
        :width="Math.max(1, step * 0.45)"
        :height="bar(mm, mostRain)"
      />
      <rect
        v-for="{ l, i } in pouring"
        :key="`w${i}`"
        class="water"
        :x="LEFT + i * step"
        :y="ABOVE - bar(l, mostWater)"
        :width="Math.max(1.5, step * 0.45)"
        :height="bar(l, mostWater)"
      />
      <template v-for="(r, i) in every" :key="r.routine.name">
        <path v-if="!long && i !== shown && r !== balance" class="other" :d="path(r)" />
      </template>
      <path v-if="balance && balance !== chosen" class="balance" :d="path(balance)" />
      <path class="chosen" :d="path(chosen)" />
      <line class="limit" :x1="LEFT" :x2="width - RIGHT" :y1="y(season.limit)" :y2="y(season.limit)" />
      <text class="scale" :x="LEFT - 6" :y="ABOVE + 16" text-anchor="end">0</text>
      <text class="scale" :x="LEFT - 6" :y="y(season.limit) + 5" text-anchor="end">
        {{ Math.round(100 * season.limit) }}
      </text>
      <text class="scale" :x="LEFT - 6" :y="ABOVE + BELOW - 4" text-anchor="end">{{ t('chart.percentDry') }}</text>
      <line class="line" x1="0" :x2="width" :y1="ABOVE" :y2="ABOVE" />
      <g v-for="i in marks(season.dates)" :key="`m${i}`">
        <line class="tick" :x1="LEFT + i * step" :x2="LEFT + i * step" :y1="ABOVE" :y2="ABOVE + 6" />
        <text v-if="!long || step * 30 > 34" class="scale" :x="LEFT + i * step" :y="ABOVE + BELOW + 20">
          {{ word(season.dates[i]!) }}
        </text>
      </g>
    </svg>
    <figcaption>
      <span class="key water-key" />{{ t('rehearse.chart.poured', { name: nameOf(chosen.routine) }) }}
      <span class="key rain-key" />{{ t('rehearse.chart.rain') }} <span class="stroke chosen-key" />{{
        nameOf(chosen.routine)
      }}
      <template v-if="balance && balance !== chosen"
        ><span class="stroke balance-key" />{{ nameOf(balance.routine) }}</template
      >
      <template v-if="!long"><span class="stroke other-key" />{{ t('rehearse.chart.others') }}</template>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  overflow-x: auto;
}
svg {
  display: block;
}
.soil {
  fill: var(--soil);
}
.rain {
  fill: var(--rain-pale);
  stroke: var(--water);
  stroke-width: 0.6;
}
.water {
  fill: var(--water);
}
.other {
  fill: none;
  stroke: var(--soil-edge);
  stroke-width: 1;
}
.balance,
.chosen {
  fill: none;
  stroke-width: 2.4;
  stroke-linejoin: round;
}
.balance {
  stroke: var(--root);
  stroke-dasharray: 6 3;
}
.chosen {
  stroke: var(--water);
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
.tick {
  stroke: var(--ink);
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  fill: var(--ink-2);
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-1) var(--space-2);
  padding-top: var(--space-2);
  font-family: var(--condensed);
}
.key {
  width: 12px;
  height: 12px;
  border: 1px solid var(--ink);
}
.stroke {
  width: 22px;
  border-top: 3px solid var(--water);
}
.key:not(:first-child),
.stroke {
  margin-left: var(--space-3);
}
.water-key {
  background: var(--water);
}
.rain-key {
  background: var(--rain-pale);
}
.balance-key {
  border-top: 3px dashed var(--root);
}
.other-key {
  border-top: 1px solid var(--soil-edge);
}
</style>
