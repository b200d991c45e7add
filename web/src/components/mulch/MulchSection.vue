<script setup lang="ts">
/** The ring from the side on the sheet's soil line: the depth profile, thin over a new ball, clear of the bark. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { branches } from '@/drawing/cutaway'
import { text } from '@/units'

const props = defineProps<{
  mulch: Schema['MulchPageOut']
  width: number
  height: number
  ground: number
  phone: boolean
  ballRadius: number
}>()
const { t } = useI18n()
const c = computed(() => props.mulch.choice)
const half = computed(() => Math.max(c.value.outer_radius_m, props.ballRadius) + 0.12)
const s = computed(() =>
  Math.min(
    (props.width - 20) / (2 * half.value),
    (props.height - props.ground - 14) / (props.mulch.tree.ball_height_m + 0.1),
  ),
)
const cx = computed(() => props.width / 2)
const trunk = computed(() => Math.max(4, props.mulch.tree.caliper_m * s.value) / 2)
/** Paving or a wall on either side, where it lies in the picture. */
const walls = computed(() =>
  [
    { side: -1, at: props.mulch.drawn.west_m },
    { side: 1, at: props.mulch.drawn.east_m },
  ].filter((w) => w.at !== null && w.at < half.value),
)
const limit = (side: number) => walls.value.find((w) => w.side === side)?.at ?? Infinity
const sides = computed(() =>
  [-1, 1].map((side) => {
    const most = Math.min(c.value.outer_radius_m, limit(side))
    const points = props.mulch.drawn.profile.map(
      ([r = 0, d = 0]) =>
        `${(cx.value + side * Math.min(r, most) * s.value).toFixed(1)} ${(props.ground - d * s.value).toFixed(1)}`,
    )
    const end = (cx.value + side * most * s.value).toFixed(1)
    return `M${(cx.value + side * bare.value * s.value).toFixed(1)} ${props.ground}L${points.slice(1).join('L')}L${end} ${props.ground}Z`
  }),
)
const bare = computed(() => props.mulch.tree.caliper_m / 2 + c.value.clear_gap_m)
const now = computed(() => props.mulch.depth_now_m * s.value)
const tree = computed(() => props.mulch.tree)
const radius = computed(() => props.ballRadius * s.value)
const deep = computed(() => tree.value.ball_height_m * s.value)
const above = computed(() => Math.min(props.ground - 26, 150))
const crown = computed(() =>
  above.value > 110 ? branches(cx.value, props.ground, above.value, 84, props.ground - above.value - 18) : [],
)
const taper = computed(() => (tree.value.kind === 'balled' ? 0.62 : tree.value.kind === 'container' ? 0.86 : 1))
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    :width="width"
    :height="height"
    role="img"
    :aria-label="t('mulch.sectionLabel', { depth: text('small', c.depth_m), gap: text('small', c.clear_gap_m) })"
  >
    <rect class="soil" x="0" :y="ground" :width="width" :height="Math.max(0, height - ground)" />
    <path
      v-if="tree.kind !== 'bare_root'"
      class="ball"
      :d="`M${cx - radius} ${ground}L${cx - radius * taper} ${ground + deep}H${cx + radius * taper}L${cx + radius} ${ground}Z`"
    />
    <path v-for="p in sides" :key="p" class="mulch" :class="{ planned: !mulch.has_ring }" :d="p" />
    <path
      v-if="mulch.has_ring && now > 1"
      class="now"
      :d="`M${cx - c.outer_radius_m * s} ${ground - now}H${cx - (bare + mulch.taper_m) * s}M${cx + (bare + mulch.taper_m) * s} ${ground - now}H${cx + c.outer_radius_m * s}`"
    />
    <path v-for="b in crown" :key="b" class="branch" :d="b" />
    <rect
      v-for="w in walls"
      :key="w.side"
      class="paved"
      :x="w.side > 0 ? cx + w.at! * s : 0"
      :y="ground - 5"
      :width="Math.max(0, width / 2 - w.at! * s)"
      height="10"
    />
    <path class="line" :d="`M0 ${ground}H${width}`" />
    <path
      class="trunk"
      :d="`M${cx - trunk * 2.2} ${ground}Q${cx - trunk} ${ground - 4} ${cx - trunk} ${ground - 16}V${ground - above}H${cx + trunk}V${ground - 16}Q${cx + trunk} ${ground - 4} ${cx + trunk * 2.2} ${ground}Z`"
    />
    <template v-if="!phone">
      <path
        class="dim"
        :d="`M${cx + trunk} ${ground - 50}v-10M${cx + bare * s} ${ground - 50}v-10M${cx + trunk} ${ground - 55}H${cx + bare * s}`"
      />
      <text :x="cx + bare * s + 8" :y="ground - 50">
        {{ t('mulch.label.gap', { gap: text('small', c.clear_gap_m) }) }}
      </text>
      <text v-if="mulch.has_ring" :x="cx - c.outer_radius_m * s" :y="ground - Math.max(c.depth_m * s, now) - 8">
        {{ t('mulch.label.now', { depth: text('small', mulch.depth_now_m) }) }}
      </text>
      <path
        class="dim"
        :d="`M${cx - c.outer_radius_m * s} ${ground + 12}v10M${cx} ${ground + 12}v10M${cx - c.outer_radius_m * s} ${ground + 17}H${cx}`"
      />
      <text :x="cx - c.outer_radius_m * s" :y="ground + 42">
        {{ t('mulch.label.edge', { radius: text('large', c.outer_radius_m) }) }}
      </text>
      <text
        class="depth"
        :x="cx + c.outer_radius_m * s"
        :y="ground - Math.max(c.depth_m * s, now) - 8"
        text-anchor="end"
      >
        {{ t('mulch.label.depth', { depth: text('small', c.depth_m) }) }}
      </text>
    </template>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  max-width: 100%;
}
.soil {
  fill: var(--soil);
}
.ball {
  fill: var(--ball);
  stroke: var(--bark);
  stroke-width: 2;
}
.mulch {
  fill: var(--straw);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.planned {
  stroke-dasharray: 5 4;
}
.paved {
  fill: var(--pavement);
  stroke: var(--ink);
}
.now {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 6 3;
}
.branch {
  fill: none;
  stroke: var(--bark);
  stroke-width: 3.5;
  stroke-linecap: round;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.trunk {
  fill: var(--bark);
}
.dim {
  stroke: var(--ink);
  fill: none;
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  font-weight: 600;
  fill: var(--ink);
}
</style>
