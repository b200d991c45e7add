<script setup lang="ts">
/** The ring from above, to scale: trunk, bare gap, slope, full depth; ball and crown for measure; a scale bar. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { isUs, text } from '@/units'

const props = defineProps<{ mulch: Schema['MulchSheet']; width: number; height: number; stacked?: boolean }>()
const { t } = useI18n()
const FOOT_M = 0.3048
const bar = computed(() => (isUs.value ? FOOT_M : 0.5))
const s = computed(() => {
  const reach = Math.max(props.mulch.outer_radius_m, props.mulch.tree.ball_diameter_m / 2) * 1.08
  return props.height / 2 / reach
})
const cx = computed(() => props.height / 2 + 8)
const cy = computed(() => props.height / 2)
const labelX = computed(() => cx.value + props.height / 2 + 26)
const labels = computed(() => {
  const m = props.mulch
  return [
    { r: m.outer_radius_m, y: 0.16, words: t('mulch.radius'), size: text('large', m.outer_radius_m) },
    {
      r: m.tree.ball_diameter_m / 2,
      y: 0.42,
      words: t('form.ballAcross'),
      size: text('small', m.tree.ball_diameter_m, 0),
    },
    { r: m.bare_radius_m, y: 0.68, words: t('mulch.bare'), size: text('small', m.bare_radius_m) },
  ].map((l) => {
    const y = l.y * props.height
    const dy = Math.max(-l.r * s.value * 0.96, Math.min(l.r * s.value * 0.96, y - cy.value))
    return { ...l, at: y, px: cx.value + Math.sqrt(Math.max(0, (l.r * s.value) ** 2 - dy * dy)), py: cy.value + dy }
  })
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    :width="width"
    :height="height"
    role="img"
    :aria-label="t('mulch.fromAbove')"
  >
    <circle class="mulch" :cx="cx" :cy="cy" :r="mulch.outer_radius_m * s" :class="{ planned: !mulch.has_ring }" />
    <circle
      class="slope"
      :cx="cx"
      :cy="cy"
      :r="Math.min(mulch.outer_radius_m, mulch.bare_radius_m + mulch.taper_m) * s"
    />
    <circle class="bare" :cx="cx" :cy="cy" :r="mulch.bare_radius_m * s" />
    <circle class="ball" :cx="cx" :cy="cy" :r="(mulch.tree.ball_diameter_m / 2) * s" />
    <circle class="trunk" :cx="cx" :cy="cy" :r="Math.max(3, (mulch.tree.caliper_m / 2) * s)" />
    <g v-for="l in labels" :key="l.words">
      <path class="leader" :d="`M${l.px} ${l.py}L${labelX - 6} ${l.at}`" />
      <circle class="dot" :cx="l.px" :cy="l.py" r="3" />
      <text v-if="stacked" :x="labelX" :y="l.at - 3">
        {{ l.words }}
        <tspan :x="labelX" dy="18" class="size">{{ l.size }}</tspan>
      </text>
      <text v-else :x="labelX" :y="l.at + 5">{{ l.words }} {{ l.size }}</text>
    </g>
    <path class="scale" :d="`M${labelX} ${height - 16}v8h${bar * s}v-8`" />
    <text :x="labelX + bar * s + 10" :y="height - 8">
      {{ text('large', bar) }}{{ stacked ? '' : `, ${t('mulch.fromAbove')}` }}
    </text>
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
.leader,
.scale {
  fill: none;
  stroke: var(--ink);
}
.dot {
  fill: var(--ink);
}
text {
  font-family: var(--condensed);
  font-size: 17px;
  font-weight: 500;
  fill: var(--ink);
}
.size {
  font-weight: 600;
}
</style>
