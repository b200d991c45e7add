<script setup lang="ts">
/** Where a tree on its own is watered, from above and to scale: a wide ring, never at the trunk. */
import { computed, useId } from 'vue'
import { useI18n } from 'vue-i18n'
import { text } from '@/units'

const props = defineProps<{ innerM: number; rootsM: number; outerM: number; ballM: number; trunkM: number }>()
const { t } = useI18n()
const id = useId()
const SIZE = 260
const scale = computed(() => (SIZE / 2 - 6) / props.outerM)
const r = (m: number) => m * scale.value
const words = computed(() => ({
  inner: text('large', props.innerM),
  outer: text('large', props.outerM),
  roots: text('large', props.rootsM),
}))
</script>

<template>
  <svg
    :width="SIZE + 110"
    :height="SIZE"
    :viewBox="`0 0 ${SIZE + 110} ${SIZE}`"
    role="img"
    :aria-label="t('own.drawing', words)"
  >
    <defs>
      <pattern :id="`${id}-water`" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="6" height="6" class="pale" />
        <line y2="6" class="stripe" />
      </pattern>
    </defs>
    <g :transform="`translate(${SIZE / 2} ${SIZE / 2})`">
      <path
        :fill="`url(#${id}-water)`"
        fill-rule="evenodd"
        class="ring"
        :d="`M${r(outerM)} 0A${r(outerM)} ${r(outerM)} 0 1 0 ${-r(outerM)} 0A${r(outerM)} ${r(outerM)} 0 1 0 ${r(outerM)} 0ZM${r(innerM)} 0A${r(innerM)} ${r(innerM)} 0 1 0 ${-r(innerM)} 0A${r(innerM)} ${r(innerM)} 0 1 0 ${r(innerM)} 0Z`"
      />
      <circle class="roots" :r="r(rootsM)" />
      <circle class="ball" :r="r(ballM)" />
      <circle class="trunk" :r="Math.max(2, r(trunkM / 2))" />
      <g class="measure">
        <path :d="`M0 0H${r(innerM)}M0 ${-4}V4M${r(innerM)} -4V4`" />
        <path :d="`M${r(outerM)} 0H${SIZE / 2 + 6}`" />
        <text :x="r(innerM) / 2" y="-6" text-anchor="middle">{{ words.inner }}</text>
        <text :x="SIZE / 2 + 10" y="5">{{ words.outer }}</text>
        <text :x="SIZE / 2 + 10" y="25">{{ t('own.water') }}</text>
        <path :d="`M${r(rootsM) * 0.71} ${-r(rootsM) * 0.71}L${SIZE / 2 + 6} ${-SIZE / 2 + 34}`" />
        <text :x="SIZE / 2 + 10" :y="-SIZE / 2 + 38">{{ words.roots }}</text>
        <text :x="SIZE / 2 + 10" :y="-SIZE / 2 + 58">{{ t('own.roots') }}</text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
svg {
  max-width: 100%;
  height: auto;
}
.pale {
  fill: var(--rain-pale);
}
.stripe {
  stroke: var(--water-fill);
  stroke-width: 2;
}
.ring {
  stroke: var(--water);
  stroke-width: 1.5;
}
.roots {
  fill: none;
  stroke: var(--root);
  stroke-width: 1.6;
  stroke-dasharray: 6 4;
}
.ball {
  fill: var(--ball);
  stroke: var(--bark);
}
.trunk {
  fill: var(--bark);
}
.measure path {
  stroke: var(--ink);
  fill: none;
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 4px;
}
</style>
