<script setup lang="ts">
/** How dry a tree's ball was: the line by the books, the line as it was found to drink, and what was felt, hanging down. */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { longDay, monthDay } from '@/logic/dates'

/** learned: what the second line stands for. */
import { percent } from '@/logic/numbers'

const props = defineProps<{
  days: Schema['BallDay'][]
  readings: Schema['ReadingOut'][]
  width: number
  learned: string
}>()
const { t } = useI18n()
const HEIGHT = 180
const TOP = 26
const LEFT = 44
const at = computed(() => new Map(props.days.map((d, i) => [d.day, i])))
const x = computed(() => scaleLinear([0, Math.max(1, props.days.length - 1)], [LEFT, props.width - 12]))
const y = scaleLinear([0, 1], [TOP, HEIGHT - 8])
const path = (of: 'book' | 'learned') =>
  line<Schema['BallDay']>()
    .x((_, i) => x.value(i))
    .y((d) => y(d[of]))(props.days) ?? ''
const felt = computed(() =>
  props.readings
    .filter((r) => r.ball_dryness !== null && at.value.has(r.day))
    .map((r) => ({ ...r, x: x.value(at.value.get(r.day)!), y: y(r.ball_dryness!) })),
)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${width} ${HEIGHT}`" :width="width" :height="HEIGHT" aria-hidden="true">
      <text :x="LEFT" y="16" class="axis">{{ monthDay(days[0]!.day) }}</text>
      <text :x="width - 12" y="16" class="axis" text-anchor="end">{{ monthDay(days.at(-1)!.day) }}</text>
      <path class="soil" :d="`M0 ${TOP}H${width}`" />
      <text x="0" :y="y(0) + 14" class="axis">{{ percent(0) }}</text>
      <text x="0" :y="y(1)" class="axis">{{ percent(1) }}</text>
      <path class="book" :d="path('book')" />
      <path class="learned" :d="path('learned')" />
      <rect v-for="r in felt" :key="r.id" class="felt" :x="r.x - 5" :y="r.y - 5" width="10" height="10" />
    </svg>
    <figcaption>
      <span><i class="key book" />{{ t('thirst.book') }}</span>
      <span><i class="key learned" />{{ learned }}</span>
      <span><i class="key felt" />{{ t('thirst.read') }}</span>
    </figcaption>
    <div class="visually-hidden">
      <table>
        <caption>
          {{
            t('thirst.chart', { from: longDay(days[0]!.day), to: longDay(days.at(-1)!.day) })
          }}
        </caption>
        <tbody>
          <tr>
            <th scope="col">{{ t('thirst.day') }}</th>
            <th scope="col">{{ t('thirst.book') }}</th>
            <th scope="col">{{ learned }}</th>
          </tr>
          <tr v-for="d in days" :key="d.day">
            <th scope="row">{{ longDay(d.day) }}</th>
            <td>{{ percent(d.book) }}</td>
            <td>{{ percent(d.learned) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </figure>
</template>

<style scoped>
figure {
  margin: var(--space-3) 0;
}
svg {
  display: block;
  max-width: 100%;
  height: auto;
}
.axis {
  font-family: var(--condensed);
  font-size: var(--text-1);
  fill: var(--ink-2);
}
.soil {
  stroke: var(--ink);
  stroke-width: 2;
}
path.book {
  fill: none;
  stroke: var(--edge);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}
path.learned {
  fill: none;
  stroke: var(--water);
  stroke-width: 3;
}
rect.felt {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-4);
  font-size: var(--text-1);
}
.key {
  display: inline-block;
  width: 22px;
  margin-right: var(--space-2);
  vertical-align: middle;
}
i.book {
  border-top: 2px dashed var(--edge);
}
i.learned {
  border-top: 3px solid var(--water);
}
i.felt {
  width: 10px;
  height: 10px;
  border: 2px solid var(--ink);
}
</style>
