<script setup lang="ts">
/** A block of the soil in force, widths in shares of its volume: grains, water held too tight, water for roots, room
 *  that drains. Its height is the depth that roots can reach. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { isUs, text } from '@/units'

const props = defineProps<{ soil: Schema['SoilOut']; depthM: number }>()
const { t } = useI18n()
const W = 480
const height = computed(() => Math.round(90 + 130 * Math.min(1, props.depthM / 0.9)))
const parts = computed(() => {
  const s = props.soil
  const shares = [
    ['solid', 1 - s.wilting_point - s.awc - s.drainable],
    ['tight', s.wilting_point],
    ['roots', s.awc],
    ['drains', s.drainable],
  ] as const
  let x = 0
  return shares.map(([name, share]) => {
    const part = { name, share, x, width: share * W }
    x += share * W
    return part
  })
})
/** What the depth holds for roots, as a depth of water. */
const holds = computed(() => text('rain', props.soil.awc * props.depthM * 1000, isUs.value ? 1 : 0))
</script>

<template>
  <figure>
    <svg
      :viewBox="`0 0 ${W + 8} ${height + 8}`"
      role="img"
      :aria-label="t('soil.column', { holds, depth: text('small', depthM, 0) })"
    >
      <g transform="translate(4 4)">
        <rect v-for="p in parts" :key="p.name" :x="p.x" y="0" :width="p.width" :height="height" :class="p.name" />
        <path class="ground" :d="`M0 0H${W}`" />
        <path class="foot" :d="`M0 ${height}H${W}`" />
      </g>
    </svg>
    <figcaption>
      <ul>
        <li v-for="p in parts" :key="p.name" :class="p.name">
          <span class="key" aria-hidden="true" />{{ t(`soil.part.${p.name}`) }}
          <strong>{{ `${Math.round(p.share * 100)}\u00a0${t('common.percent')}` }}</strong>
        </li>
      </ul>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  width: 100%;
  height: auto;
  display: block;
}
rect {
  stroke: var(--ink);
  stroke-width: 1;
}
.solid {
  fill: var(--soil);
}
.tight {
  fill: var(--root);
}
.roots {
  fill: var(--water-fill);
}
.drains {
  fill: var(--water-pale);
}
.ground {
  stroke: var(--ink);
  stroke-width: 3;
}
.foot {
  stroke: var(--ink);
  stroke-dasharray: 5 4;
  stroke-width: 2;
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-5);
  margin-top: var(--space-2);
}
.key {
  display: inline-block;
  width: 14px;
  height: 14px;
  border: 1px solid var(--ink);
  margin-right: var(--space-2);
  vertical-align: -2px;
}
li.solid .key {
  background: var(--soil);
}
li.tight .key {
  background: var(--root);
}
li.roots .key {
  background: var(--water-fill);
}
li.drains .key {
  background: var(--water-pale);
}
strong {
  font-weight: 600;
}
</style>
