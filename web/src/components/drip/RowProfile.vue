<script setup lang="ts">
/** A row from the side: how the ground lies from the valve past each tree, and the pressure that each tee is left with. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { text } from '@/units'

const props = defineProps<{ page: Schema['LinePageOut']; width: number }>()
const { t } = useI18n()
/** As the row from above, which lies over it. */
const LEFT = 30
const RIGHT = 22
const TALL = 84
const TOP = 34
const FOOT = 46
/** Heights are drawn larger than lengths, so that a slope is seen; never over this many px a m. */
const STEEPEST = 60
const places = computed(() => [
  { far: 0, up: 0 },
  ...props.page.trees.map((tree) => ({ far: tree.chainage_m, up: tree.height_m })),
])
const last = computed(() => props.page.trees[props.page.trees.length - 1]!)
const across = computed(
  () => (props.width - LEFT - RIGHT) / (last.value.chainage_m + Math.min(last.value.look.reach_m, 1.2)),
)
const low = computed(() => Math.min(...places.value.map((p) => p.up)))
const high = computed(() => Math.max(...places.value.map((p) => p.up)))
const upward = computed(() => Math.min(STEEPEST, TALL / Math.max(0.01, high.value - low.value)))
const height = computed(() => TOP + (high.value - low.value) * upward.value + FOOT)
const X = (m: number) => LEFT + m * across.value
const Y = (m: number) => TOP + (high.value - m) * upward.value
const ground = computed(() => places.value.map((p) => `${X(p.far).toFixed(1)} ${Y(p.up).toFixed(1)}`).join('L'))
const end = computed(() => props.width - RIGHT)
const every = computed(() => Math.max(1, Math.ceil((props.page.trees.length * 62) / props.width)))
const shown = (n: number) => n % every.value === 0 || n === props.page.trees.length - 1
const larger = computed(() => Math.round(upward.value / across.value))
</script>

<template>
  <figure v-if="high > low">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      :aria-label="t('drip.row.profile', { up: text('large', last.height_m, 1) })"
    >
      <path class="earth" :d="`M${ground}H${end}V${height}H${LEFT}Z`" />
      <path class="ground" :d="`M${ground}H${end}`" />
      <path class="valve" :transform="`translate(${X(0)} ${Y(0)})`" d="M-9-9L0 0L-9 9ZM9-9L0 0L9 9Z" />
      <g v-for="(tree, n) in page.trees" :key="tree.id">
        <path class="trunk" :d="`M${X(tree.chainage_m)} ${Y(tree.height_m)}v-9`" />
        <template v-if="shown(n)">
          <text :x="X(tree.chainage_m)" :y="Y(tree.height_m) - 14" text-anchor="middle">
            {{ text('head', tree.tee_head_m) }}
          </text>
          <text class="far" :x="X(tree.chainage_m)" :y="height - 10" text-anchor="middle">
            {{ text('large', tree.height_m, 1) }}
          </text>
        </template>
      </g>
    </svg>
    <figcaption class="quiet">{{ t('drip.row.profileSays', { n: Math.max(1, larger) }) }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: var(--space-2) 0 0;
}
svg {
  display: block;
  width: 100%;
  height: auto;
  background: var(--paper);
  border: 1px solid var(--ink);
}
.earth {
  fill: var(--straw);
  fill-opacity: 0.28;
}
.ground {
  fill: none;
  stroke: var(--bark);
  stroke-width: 3;
}
.valve {
  fill: var(--ink);
}
.trunk {
  stroke: var(--bark);
  stroke-width: 5;
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
