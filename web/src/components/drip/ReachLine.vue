<script setup lang="ts">
/** How much of the roots the water reaches as they grow: a line over two years, with the share under which to move it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

const props = defineProps<{ reach: number[]; everyDays: number }>()
const { t } = useI18n()
const WIDE = 200
const TALL = 64
/** Under this the layout is outgrown; the core says when. */
const OUTGROWN = 0.75
const x = (n: number) => (n / Math.max(1, props.reach.length - 1)) * WIDE
const y = (share: number) => (1 - share) * TALL
const way = computed(() => props.reach.map((share, n) => `${x(n).toFixed(1)} ${y(share).toFixed(1)}`).join('L'))
const percent = (share: number) => Math.round(100 * share)
const YEAR = 365
const at = (year: number) => props.reach[Math.min(props.reach.length - 1, Math.round((YEAR * year) / props.everyDays))]!
</script>

<template>
  <figure>
    <svg :viewBox="`0 -4 ${WIDE} ${TALL + 8}`" aria-hidden="true">
      <path class="limit" :d="`M0 ${y(OUTGROWN)}H${WIDE}`" />
      <path class="reach" :d="`M${way}`" />
    </svg>
    <figcaption>
      {{ t('drip.compare.reach', { now: percent(at(0)), one: percent(at(1)), two: percent(at(2)) }) }}
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  height: auto;
  border-bottom: 1px solid var(--ink);
  border-left: 1px solid var(--ink);
}
.reach {
  fill: none;
  stroke: var(--root);
  stroke-width: 3;
}
.limit {
  stroke: var(--ink-2);
  stroke-dasharray: 4 4;
}
figcaption {
  font-family: var(--condensed);
}
</style>
