<script setup lang="ts">
/** A whole row from above, to scale, turned so that it runs to the right: valve, lateral, every tree with its layout. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import type { Place } from '@/drawing/plan'
import { isUs, text } from '@/units'

const props = defineProps<{ page: Schema['LinePageOut']; width: number }>()
const { t } = useI18n()
const LEFT = 30
const RIGHT = 22
const turn = computed(() => ((props.page.lateral.bearing_deg - 90) * Math.PI) / 180)
/** East and north of a tree to along the row and left of it. */
function along([x = 0, y = 0]: Place): [number, number] {
  const c = Math.cos(turn.value)
  const s = Math.sin(turn.value)
  return [x * c - y * s, x * s + y * c]
}
const last = computed(() => props.page.trees[props.page.trees.length - 1]!)
const ends = computed(() => last.value.chainage_m + Math.min(last.value.look.reach_m, 1.2))
const scale = computed(() => (props.width - LEFT - RIGHT) / ends.value)
const wide = computed(() =>
  Math.max(
    Math.abs(props.page.lateral.offset_m),
    ...props.page.trees.map((tree) => Math.max(tree.look.scene.roots_now_m, tree.look.figures.reach_m)),
  ),
)
const mid = computed(() => 26 + wide.value * scale.value)
const height = computed(() => mid.value + wide.value * scale.value + 46)
const X = (m: number) => LEFT + m * scale.value
const Y = (m: number) => mid.value - m * scale.value
// a hedge is fed straight into its first line
const lateralY = computed(() => Y(-(props.page.hedge ? last.value.look.choice.offset_m : props.page.lateral.offset_m)))
function way(tree: Schema['OnLineOut'], points: readonly Place[]): string {
  return (
    'M' +
    points
      .map((p) => along(p))
      .map(([a, b]) => `${X(tree.chainage_m + a).toFixed(1)} ${Y(b).toFixed(1)}`)
      .join('L')
  )
}
function spot(tree: Schema['OnLineOut'], x: number, y: number): [number, number] {
  const [a, b] = along([x, y])
  return [X(tree.chainage_m + a), Y(b)]
}
/** Labels stand clear of each other: only as many as there is room for. */
const every = computed(() => {
  const gap =
    props.page.trees.length > 1 ? (props.page.trees[1]!.chainage_m - props.page.trees[0]!.chainage_m) * scale.value : 99
  return Math.max(1, Math.ceil(58 / gap))
})
const bar = computed(() => {
  const steps = isUs.value ? [0.3048, 1.524, 3.048, 6.096, 15.24] : [0.5, 1, 2, 5, 10, 20]
  return steps.find((s) => s * scale.value > 60) ?? steps[steps.length - 1]!
})
const begins = computed(() => (props.page.hedge ? props.page.length_m : last.value.chainage_m))
const headers = (tree: Schema['OnLineOut'], n: number) => tree.look.runs.filter((r) => r.kind !== 'header' || n === 0)
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" role="img" :aria-label="t('drip.row.label', { n: page.trees.length })">
    <path class="lateral" :d="`M${X(0)} ${lateralY}H${X(begins)}`" />
    <g :transform="`translate(${X(0)} ${lateralY})`">
      <path class="valve" d="M-14-9L0 0L-14 9ZM14-9L0 0L14 9Z" />
    </g>
    <g v-for="(tree, n) in page.trees" :key="tree.id">
      <circle class="ball" :cx="X(tree.chainage_m)" :cy="mid" :r="tree.look.scene.ball_radius_m * scale" />
      <circle
        v-for="e in tree.look.emitters"
        :key="`w${e.number}`"
        class="wet"
        :cx="spot(tree, e.x_m, e.y_m)[0]"
        :cy="spot(tree, e.x_m, e.y_m)[1]"
        :r="(e.width_m / 2) * scale"
      />
      <path v-for="(r, k) in headers(tree, n)" :key="k" class="tube" :d="way(tree, r.path)" />
      <circle
        v-for="e in tree.look.emitters"
        :key="e.number"
        class="dot"
        :cx="spot(tree, e.x_m, e.y_m)[0]"
        :cy="spot(tree, e.x_m, e.y_m)[1]"
        :r="Math.max(1.6, Math.min(4, 0.03 * scale))"
      />
      <circle
        class="trunk"
        :cx="X(tree.chainage_m)"
        :cy="mid"
        :r="Math.max(2.5, (tree.look.scene.trunk_diameter_m / 2) * scale)"
      />
      <g v-if="n % every === 0 || n === page.trees.length - 1">
        <text
          v-if="n === page.trees.length - 1 || n + every < page.trees.length"
          :x="X(tree.chainage_m)"
          y="16"
          text-anchor="middle"
        >
          {{ tree.tag }}
        </text>
        <text
          v-if="n === page.trees.length - 1 || n + every < page.trees.length"
          class="far"
          :x="X(tree.chainage_m)"
          :y="height - 26"
          text-anchor="middle"
        >
          {{ text('large', tree.chainage_m, 1) }}
        </text>
      </g>
    </g>
    <g v-for="gap in page.gaps" :key="gap.tree_id">
      <circle
        v-for="(place, n) in gap.closed ? [] : gap.emitters"
        :key="n"
        class="dot"
        :cx="X(gap.chainage_m + along(place)[0])"
        :cy="Y(along(place)[1])"
        :r="Math.max(1.6, Math.min(4, 0.03 * scale))"
      />
      <path class="gone" :d="`M${X(gap.chainage_m) - 8} ${mid - 8}l16 16m0 -16l-16 16`" />
    </g>
    <path class="scale" :d="`M${X(0) + 26} ${height - 16}v7h${bar * scale}v-7`" />
    <text :x="X(bar) + 34" :y="height - 7">{{ text('large', bar) }}</text>
    <text class="far" :x="X(0) - 26" :y="height - 26">{{ t('drip.row.valve') }}</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  height: auto;
  background: var(--paper);
  border: 1px solid var(--ink);
}
.lateral {
  stroke: var(--ink);
  stroke-width: 4;
}
.valve {
  fill: var(--ink);
}
.tube {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.gone {
  stroke: var(--warning);
  stroke-width: 2.5;
}
.wet {
  fill: var(--water-fill);
  fill-opacity: 0.22;
  stroke: var(--water);
  stroke-width: 0.8;
}
.ball {
  fill: none;
  stroke: var(--bark);
  stroke-width: 1.5;
  stroke-dasharray: 6 3;
}
.dot {
  fill: var(--water);
}
.trunk {
  fill: var(--bark);
}
.scale {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.2;
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  font-weight: 600;
  fill: var(--ink);
}
.far {
  font-weight: 500;
}
</style>
