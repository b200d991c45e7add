<script setup lang="ts">
/** A week of a probe's hours: how full the store is at each depth, what is no reading, what each night said. */
import { scaleLinear, scaleTime } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { longDay, moment, monthDay } from '@/logic/dates'
import { fixed } from '@/logic/numbers'
import { text } from '@/units'

const props = defineProps<{ probe: Schema['ProbeOut']; width: number }>()
const { t } = useI18n()
const HEIGHT = 220
const TOP = 8
const FOOT = 26
const LEFT = 52
const NIGHT_ENDS = 6
const DASHES = ['', '8 4', '2 4', '10 3 2 3']
const times = computed(() => props.probe.hours.map((hour) => new Date(hour.at)))
const values = computed(() => props.probe.hours.flatMap((hour) => hour.theta.filter((one) => one !== null)))
const limits = computed(() => {
  const known = [props.probe.wilting_m3_m3, props.probe.capacity_m3_m3].filter((one) => one !== null)
  const good = values.value.filter((one) => one >= 0 && one <= (props.probe.saturation_m3_m3 ?? 1) + 0.05)
  return [Math.max(0, Math.min(...known, ...good) - 0.02), Math.max(...known, ...good) + 0.02] as const
})
const x = computed(() => scaleTime([times.value[0]!, times.value.at(-1)!], [LEFT, props.width - 8]))
const y = computed(() => scaleLinear([limits.value[1], limits.value[0]], [TOP, HEIGHT - FOOT]).clamp(true))
type Point = { at: Date; value: number | null; doubt: string }
const curves = computed(() =>
  props.probe.depths_m.map((depth, n) => {
    const points: Point[] = props.probe.hours.map((hour, i) => ({
      at: times.value[i]!,
      value: hour.theta[n] ?? null,
      doubt: hour.doubts[n] ?? '',
    }))
    const path = line<Point>()
      .defined((one) => one.value !== null && !one.doubt)
      .x((one) => x.value(one.at))
      .y((one) => y.value(one.value!))(points)
    return { depth, path: path ?? '', wrong: points.filter((one) => one.doubt && one.value !== null) }
  }),
)
const days = computed(() => x.value.ticks(props.width < 420 ? 3 : 6).map((at) => ({ at, x: x.value(at) })))
const nights = computed(() =>
  props.probe.nights.flatMap((night) => {
    const at = props.probe.hours.find((hour) => {
      const local = new Intl.DateTimeFormat('en-CA', {
        timeZone: props.probe.timezone,
        dateStyle: 'short',
        timeStyle: 'short',
        hourCycle: 'h23',
      }).format(new Date(hour.at))
      return local.startsWith(night.day) && local.endsWith(`${String(NIGHT_ENDS).padStart(2, '0')}:00`)
    })
    return at && night.theta_m3_m3 !== null
      ? [{ day: night.day, x: x.value(new Date(at.at)), y: y.value(night.theta_m3_m3) }]
      : []
  }),
)
const marks = computed(() =>
  (['capacity_m3_m3', 'wilting_m3_m3'] as const)
    .map((name) => ({ name, value: props.probe[name] }))
    .filter((one): one is { name: typeof one.name; value: number } => one.value !== null),
)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${width} ${HEIGHT}`" :width="width" :height="HEIGHT" aria-hidden="true">
      <g v-for="mark in marks" :key="mark.name">
        <line class="mark" :x1="LEFT" :x2="width - 8" :y1="y(mark.value)" :y2="y(mark.value)" />
        <text x="0" :y="y(mark.value) + 5" class="axis">{{ fixed(mark.value, 2) }}</text>
        <text :x="width - 8" :y="y(mark.value) - 4" class="axis" text-anchor="end">{{ t(`probes.${mark.name}`) }}</text>
      </g>
      <g v-for="(curve, n) in curves" :key="curve.depth">
        <path class="curve" :stroke-dasharray="DASHES[n % DASHES.length]" :d="curve.path" />
        <path
          v-for="one in curve.wrong"
          :key="one.at.getTime()"
          class="wrong"
          :d="`M${x(one.at) - 3} ${y(one.value!) - 3}l6 6m0 -6l-6 6`"
        />
      </g>
      <text x="0" :y="HEIGHT - 6" class="axis">{{ t('probes.unit') }}</text>
      <rect v-for="one in nights" :key="one.day" class="night" :x="one.x - 5" :y="one.y - 5" width="10" height="10" />
      <text v-for="day in days" :key="day.x" class="axis" :x="day.x" :y="HEIGHT - 6" text-anchor="middle">
        {{ monthDay(day.at.toISOString().slice(0, 10)) }}
      </text>
    </svg>
    <figcaption>
      <span v-for="(depth, n) in probe.depths_m" :key="depth" class="one">
        <svg width="34" height="12" aria-hidden="true">
          <path class="curve" :stroke-dasharray="DASHES[n % DASHES.length]" d="M0 6H34" /></svg
        >{{ t(probe.in_store[n] ? 'probes.depth' : 'probes.depthOutside', { depth: text('small', depth, 0) }) }}
      </span>
      <span class="one"><i class="key night" />{{ t('probes.nightMark') }}</span>
      <span v-if="curves.some((curve) => curve.wrong.length)" class="one">
        <svg width="12" height="12" aria-hidden="true"><path class="wrong" d="M2 2l8 8m0 -8l-8 8" /></svg
        >{{ t('probes.noReading') }}
      </span>
    </figcaption>
    <div class="visually-hidden">
      <table>
        <caption>
          {{
            t('probes.table', {
              from: moment(probe.hours[0]!.at, probe.timezone),
              to: moment(probe.hours.at(-1)!.at, probe.timezone),
            })
          }}
        </caption>
        <tbody>
          <tr>
            <th scope="col">{{ t('thirst.day') }}</th>
            <th scope="col">{{ t('probes.theta') }}</th>
          </tr>
          <tr v-for="night in probe.nights" :key="night.day">
            <th scope="row">{{ longDay(night.day) }}</th>
            <td>{{ night.theta_m3_m3 === null ? t(`probes.why.${night.why}`) : fixed(night.theta_m3_m3, 2) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </figure>
</template>

<style scoped>
figure {
  margin: var(--space-3) 0;
  max-width: 100%;
}
.curve {
  fill: none;
  stroke: var(--water);
  stroke-width: 2;
}
.mark {
  stroke: var(--soil-edge);
  stroke-width: 1.5;
}
.wrong {
  fill: none;
  stroke: var(--warning);
  stroke-width: 1.5;
}
.night {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.axis {
  font-family: var(--condensed);
  font-size: var(--text-1);
  fill: var(--ink-2);
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-4);
}
.one {
  display: inline-flex;
  align-items: center;
  gap: var(--space-2);
}
i.key.night {
  display: inline-block;
  width: 10px;
  height: 10px;
  border: 2px solid var(--ink);
}
</style>
