<script setup lang="ts">
/** A layout from above, small, beside others: roots, ball, what is wet, tubes, emitters, what stands beside it. */
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { at, path, type PlanFrame } from '@/drawing/plan'

const props = defineProps<{ of: Schema['SideBySideOut']; layout: Schema['ComparedOut']; label: string }>()
const SIZE = 200
const frame = computed<PlanFrame>(() => ({ cx: SIZE / 2, cy: SIZE / 2, scale: SIZE / (2 * props.of.half_m) }))
const px = (metres: number) => metres * frame.value.scale
const spots = computed(() =>
  props.layout.emitters.map((e) => {
    const [x, y] = at(frame.value, e.x_m, e.y_m)
    return { x, y, r: px(e.width_m / 2) }
  }),
)
</script>

<template>
  <svg class="drip-drawing" :viewBox="`0 0 ${SIZE} ${SIZE}`" role="img" :aria-label="label">
    <path v-for="(s, n) in of.shapes" :key="`s${n}`" class="shape" :d="path(frame, s.outline, true)" />
    <circle v-for="(s, n) in spots" :key="`w${n}`" class="wet" :cx="s.x" :cy="s.y" :r="s.r" />
    <circle class="roots" :cx="frame.cx" :cy="frame.cy" :r="px(of.roots_radius_m)" />
    <circle class="ball" :cx="frame.cx" :cy="frame.cy" :r="px(of.ball_radius_m)" />
    <path v-for="(r, n) in layout.runs" :key="`r${n}`" class="tube" :d="path(frame, r.path)" />
    <circle v-for="(s, n) in spots" :key="`e${n}`" class="dot" :cx="s.x" :cy="s.y" r="3" />
    <circle class="trunk" :cx="frame.cx" :cy="frame.cy" :r="Math.max(3, px(of.trunk_diameter_m / 2))" />
  </svg>
</template>

<style scoped>
svg {
  --line: 0.6;
  display: block;
  width: 100%;
  height: auto;
  border: 1px solid var(--ink);
  background: var(--paper);
}
</style>

<style src="./dripDrawing.css"></style>
