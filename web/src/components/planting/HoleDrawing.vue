<script setup lang="ts">
/** The hole to scale in the cutaway: ball on firm ground, flare raised, sloping sides, basin, stake mark, support. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { holeDrawing, type HoleStock } from '@/drawing/hole'
import { text } from '@/units'

const props = defineProps<{
  figures: Schema['PlantingFiguresOut']
  stock: HoleStock
  width: number
  height: number
  ground: number
  phone: boolean
}>()
const { t } = useI18n()
const below = computed(() => props.height - props.ground - (props.phone ? 26 : 64))
const d = computed(() => holeDrawing(props.figures, props.stock, props.width - 24, below.value, props.ground))
const cx = computed(() => d.value.cx)
const board = computed(() => Math.min(d.value.top + 18, props.width / 2 - 14))
const label = computed(() =>
  t('planting.across', {
    top: text('small', props.figures.hole.top_diameter_m, 0),
    base: text('small', props.figures.hole.base_diameter_m, 0),
  }),
)
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    :width="width"
    :height="height"
    role="img"
    :aria-label="`${text('small', figures.hole.depth_m)} ${t('planting.deep')}, ${label}`"
  >
    <rect class="soil" x="0" :y="ground" :width="width" :height="Math.max(0, height - ground)" />
    <g transform="translate(12 0)">
      <path class="hole" :d="d.hole" />
      <path v-if="d.mound" class="mound" :d="d.mound" />
      <path v-for="p in d.posts" :key="p" class="post" :d="p" />
      <path class="ball" :class="{ none: stock.kind === 'bare_root' }" :d="d.ball" />
      <path v-if="d.over" class="over" :d="d.over" />
      <path v-for="r in d.roots" :key="r" class="root" :d="r" />
      <path v-for="b in d.crown" :key="b" class="branch" :d="b" />
      <path v-for="r in d.ridges" :key="r" class="ridge" :d="r" />
      <path class="trunk" :d="d.trunk" />
      <path v-for="m in d.mulch" :key="m" class="mulch" :d="m" />
      <path v-if="d.graftY !== null" class="graft" :d="`M${cx - 12} ${d.graftY + 4}L${cx + 12} ${d.graftY - 4}`" />
      <path v-for="e in d.edging" :key="e" class="edging" :d="e" />
      <path class="line" :d="`M-12 ${ground}H${width - 12}`" />
      <g class="stake">
        <path :d="`M${cx - board} ${ground - 3}H${cx + board}`" />
        <path :d="`M${cx + d.base - 8} ${ground}V${d.floorY}`" class="rod" />
        <path :d="`M${cx + d.base - 16} ${d.floorY}h16`" class="rod" />
      </g>
      <text class="depth" :x="cx + d.base + 4" :y="(ground + d.floorY) / 2 + 6">
        {{ text('small', figures.hole.stake_mark_m) }}
      </text>
      <template v-if="!phone">
        <path
          class="dim"
          :d="`M${cx - d.top} ${d.floorY + 14}v10M${cx + d.top} ${d.floorY + 14}v10M${cx - d.top} ${d.floorY + 19}H${cx + d.top}`"
        />
        <text :x="cx" :y="d.floorY + 40" text-anchor="middle">{{ label }}</text>
        <template v-if="figures.choice.raise_m !== 0">
          <path class="dim" :d="`M${cx + 16} ${d.flareY}L${cx + 40} ${Math.min(d.flareY, ground) - 58}`" />
          <text class="small" :x="cx + 44" :y="Math.min(d.flareY, ground) - 56">
            {{
              t('planting.flareAt', {
                where: t(figures.choice.raise_m > 0 ? 'planting.over' : 'planting.under', {
                  raise: text('small', Math.abs(figures.choice.raise_m)),
                }),
              })
            }}
          </text>
        </template>
      </template>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  max-width: 100%;
}
.soil,
.mound,
.ridge {
  fill: var(--soil);
}
.mound,
.ridge {
  stroke: var(--ink);
}
.hole {
  fill: var(--ball);
  stroke: var(--ink);
  stroke-width: 2;
}
.ball {
  fill: var(--hollow);
  stroke: var(--bark);
  stroke-width: 2;
}
.none {
  fill: none;
  stroke-dasharray: 4 4;
}
.over {
  fill: none;
  stroke: var(--warning);
  stroke-width: 1.5;
  stroke-dasharray: 4 3;
}
.root {
  fill: none;
  stroke: var(--root);
  stroke-width: 2.4;
  stroke-linecap: round;
}
.trunk {
  fill: var(--bark);
}
.mulch {
  fill: none;
  stroke: var(--ink);
  stroke-dasharray: 2 4;
}
.graft,
.edging {
  stroke: var(--ink);
  stroke-width: 3;
}
.post {
  stroke: var(--bark);
  stroke-width: 5;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.stake path {
  stroke: var(--ink);
  stroke-width: 5;
}
.stake .rod {
  stroke-width: 2.5;
}
.dim {
  stroke: var(--ink);
  fill: none;
}
text {
  font-family: var(--condensed);
  font-size: var(--text-2);
  font-weight: 600;
  fill: var(--ink);
  stroke: var(--soil);
  stroke-width: 4px;
  paint-order: stroke;
}
.branch {
  fill: none;
  stroke: var(--bark);
  stroke-width: 3.5;
  stroke-linecap: round;
}
.small {
  stroke: var(--ground);
}
.depth {
  font-size: var(--text-3);
}
</style>
