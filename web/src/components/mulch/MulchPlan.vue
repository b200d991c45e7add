<script setup lang="ts">
/** The ring from above, to scale: what is covered once, neighbors' rings, paving and walls, ball, bare gap. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { at, path } from '@/drawing/plan'
import { isUs, text } from '@/units'

const props = defineProps<{ mulch: Schema['MulchPageOut']; width: number; height: number; ballRadius: number }>()
const { t } = useI18n()
const FOOT_M = 0.3048
const bar = computed(() => (isUs.value ? FOOT_M : 0.5))
const frame = computed(() => ({
  cx: props.height / 2,
  cy: props.height / 2,
  scale: props.height / 2 / props.mulch.drawn.reach_m,
}))
const covered = computed(() => props.mulch.drawn.outlines.map((o) => path(frame.value, o, true)).join(''))
const c = computed(() => props.mulch.choice)
const s = computed(() => frame.value.scale)
const bare = computed(() => props.mulch.tree.caliper_m / 2 + c.value.clear_gap_m)
const labelX = computed(() => props.height + 18)
const labels = computed(() => {
  const rows = [
    {
      r: c.value.outer_radius_m,
      y: 0.14,
      words: t('mulch.label.edge', { radius: text('large', c.value.outer_radius_m) }),
    },
    { r: bare.value, y: 0.62, words: t('mulch.label.gap', { gap: text('small', c.value.clear_gap_m) }) },
  ]
  if (props.mulch.thin_radius_m > 0)
    rows.splice(1, 0, {
      r: props.mulch.thin_radius_m,
      y: 0.38,
      words: t('mulch.label.thin', {
        depth: text('small', Math.min(props.mulch.limits.ball_first_season_m, c.value.depth_m)),
      }),
    })
  return rows.map((l) => {
    const y = l.y * props.height
    const dy = Math.max(-l.r * s.value * 0.96, Math.min(l.r * s.value * 0.96, y - frame.value.cy))
    return {
      ...l,
      at: y,
      px: frame.value.cx + Math.sqrt(Math.max(0, (l.r * s.value) ** 2 - dy * dy)),
      py: frame.value.cy + dy,
    }
  })
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    :width="width"
    :height="height"
    role="img"
    :aria-label="
      t('mulch.planLabel', {
        radius: text('large', c.outer_radius_m),
        area: text('area', mulch.laid.area_m2),
      })
    "
  >
    <defs>
      <clipPath id="mulch-frame"><rect x="0" y="0" :width="height" :height="height" /></clipPath>
    </defs>
    <g clip-path="url(#mulch-frame)">
      <g v-for="n in mulch.drawn.neighbours" :key="n.tag">
        <circle
          class="other"
          :cx="at(frame, n.x_m, n.y_m)[0]"
          :cy="at(frame, n.x_m, n.y_m)[1]"
          :r="n.outer_radius_m * s"
        />
        <circle
          class="trunk"
          :cx="at(frame, n.x_m, n.y_m)[0]"
          :cy="at(frame, n.x_m, n.y_m)[1]"
          :r="Math.max(3, (n.trunk_diameter_m / 2) * s)"
        />
      </g>
      <path class="mulch" :class="{ planned: !mulch.has_ring }" :d="covered" fill-rule="evenodd" />
      <path
        v-for="(o, n) in mulch.drawn.shapes"
        :key="n"
        class="taken"
        :class="o.kind"
        :d="path(frame, o.outline, true)"
      />
      <circle class="edge" :cx="frame.cx" :cy="frame.cy" :r="c.outer_radius_m * s" />
      <circle class="slope" :cx="frame.cx" :cy="frame.cy" :r="(bare + mulch.taper_m) * s" />
      <circle class="ball" :cx="frame.cx" :cy="frame.cy" :r="ballRadius * s" />
      <circle class="bare" :cx="frame.cx" :cy="frame.cy" :r="bare * s" />
      <circle class="trunk" :cx="frame.cx" :cy="frame.cy" :r="Math.max(3, (mulch.tree.caliper_m / 2) * s)" />
    </g>
    <g v-for="l in labels" :key="l.words">
      <path class="leader" :d="`M${l.px} ${l.py}L${labelX - 6} ${l.at}`" />
      <circle class="dot" :cx="l.px" :cy="l.py" r="3" />
      <text :x="labelX" :y="l.at + 5">{{ l.words }}</text>
    </g>
    <path class="leader" :d="`M${labelX} ${height - 16}v8h${bar * s}v-8`" />
    <text :x="labelX + bar * s + 8" :y="height - 8">{{ text('large', bar, isUs ? 0 : 1) }}</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  max-width: 100%;
  height: auto;
}
.mulch {
  fill: var(--straw);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.planned {
  stroke-dasharray: 6 4;
}
.other {
  fill: var(--straw);
  fill-opacity: 0.45;
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
.edge {
  fill: none;
  stroke: var(--ink);
  stroke-dasharray: 2 4;
}
.taken {
  fill: var(--pavement);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.taken.drain_field,
.taken.turf {
  fill: none;
  stroke-dasharray: 2 4;
}
.slope {
  fill: none;
  stroke: var(--bark);
  stroke-dasharray: 2 3;
}
.bare {
  fill: var(--soil);
  stroke: var(--ink);
}
.ball {
  fill: none;
  stroke: var(--bark);
  stroke-width: 1.5;
  stroke-dasharray: 8 4;
}
.trunk {
  fill: var(--bark);
}
.leader {
  fill: none;
  stroke: var(--ink);
}
.dot {
  fill: var(--ink);
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  font-weight: 600;
  fill: var(--ink);
}
</style>
