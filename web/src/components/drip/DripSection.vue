<script setup lang="ts">
/** The same layout from the side: how deep each bulb wets, against ball and roots. Distances from the trunk, to scale. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { text } from '@/units'

const props = defineProps<{ look: Schema['DripLook']; width: number; reach?: number }>()
const { t } = useI18n()
const half = computed(() => props.reach ?? props.look.reach_m)
const s = computed(() => props.width / (2 * half.value))
const cx = computed(() => props.width / 2)
const ground = 26
const deepest = computed(() =>
  Math.max(props.look.scene.root_depth_m, props.look.scene.ball_height_m, ...props.look.emitters.map((e) => e.depth_m)),
)
const height = computed(() => ground + deepest.value * s.value + 18)
/** Emitters by their distance from the trunk, those on the east to the right; the same distance twice is one bulb. */
const bulbs = computed(() => {
  const seen = new Map<string, { x: number; r: number; z: number }>()
  for (const e of props.look.emitters) {
    const x = Math.hypot(e.x_m, e.y_m) * (e.x_m < -1e-6 ? -1 : 1)
    seen.set(x.toFixed(2), { x: cx.value + x * s.value, r: (e.width_m / 2) * s.value, z: e.depth_m * s.value })
  }
  return [...seen.values()]
})
const labels = computed(() => {
  const sc = props.look.scene
  const bulb = Math.min(...props.look.emitters.map((e) => e.depth_m))
  const rows = [
    { z: bulb, words: t('drip.side.bulb', { depth: text('small', bulb, 0) }), kind: 'water' },
    { z: sc.ball_height_m, words: t('drip.side.ball', { depth: text('small', sc.ball_height_m, 0) }), kind: 'ball' },
    { z: sc.root_depth_m, words: t('drip.side.roots', { depth: text('small', sc.root_depth_m, 0) }), kind: 'roots' },
  ].sort((a, b) => a.z - b.z)
  let last = -Infinity
  return rows.map((r) => {
    const y = Math.max(ground + r.z * s.value + 5, last + 19)
    last = y
    return { ...r, y, line: ground + r.z * s.value }
  })
})
const tall = computed(() => Math.max(height.value, ...labels.value.map((l) => l.y + 8)))
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${tall}`" role="img" :aria-label="t('drip.sideLabel')">
    <rect class="soil" x="0" :y="ground" :width="width" :height="tall - ground" />
    <path
      class="roots"
      :d="`M${cx - look.scene.roots_now_m * s} ${ground}v${look.scene.root_depth_m * s}h${2 * look.scene.roots_now_m * s}v${-look.scene.root_depth_m * s}`"
    />
    <rect
      class="ball"
      :x="cx - look.scene.ball_radius_m * s"
      :y="ground"
      :width="2 * look.scene.ball_radius_m * s"
      :height="look.scene.ball_height_m * s"
    />
    <path
      v-for="(b, n) in bulbs"
      :key="n"
      class="bulb"
      :d="`M${b.x - b.r} ${ground}A${b.r} ${b.z} 0 0 0 ${b.x + b.r} ${ground}Z`"
    />
    <path class="line" :d="`M0 ${ground}H${width}`" />
    <path class="trunk" :d="`M${cx} ${ground}V0`" :stroke-width="Math.max(3, look.scene.trunk_diameter_m * s)" />
    <circle v-for="(b, n) in bulbs" :key="`d${n}`" class="dot" :cx="b.x" :cy="ground" r="5" />
    <g v-for="l in labels" :key="l.kind" :class="l.kind">
      <path class="mark" :d="`M${width - 8} ${l.line}h8`" />
      <text :x="width - 12" :y="l.y" text-anchor="end">{{ l.words }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  height: auto;
}
.soil {
  fill: var(--soil);
}
.ball {
  fill: var(--ball);
  stroke: var(--bark);
  stroke-width: 2;
  stroke-dasharray: 12 4;
}
.ball text {
  stroke-dasharray: none;
}
.roots {
  fill: none;
  stroke: var(--root);
  stroke-width: 2;
}
.bulb {
  fill: var(--water-fill);
  fill-opacity: 0.35;
  stroke: var(--water);
  stroke-width: 1.2;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.trunk {
  stroke: var(--bark);
}
.dot {
  fill: var(--water);
}
.mark {
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  font-weight: 600;
  fill: var(--ink);
  stroke: var(--soil);
  stroke-width: 4px;
  paint-order: stroke;
}
g.ball text {
  stroke-width: 4px;
}
</style>
