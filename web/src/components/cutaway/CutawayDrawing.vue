<script setup lang="ts">
/** The cutaway at its three sizes; its label says in words what the drawing shows. */
import { computed, useId } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { cutaway } from '@/drawing/cutaway'
import { text } from '@/units'

const props = withDefaults(
  defineProps<{
    section: Schema['Section']
    size: 'small' | 'medium' | 'large'
    width: number
    height: number
    ground: number
    proofM?: number | null
    labels?: boolean
    mulchLabel?: string
  }>(),
  { proofM: null, labels: false, mulchLabel: '' },
)
const { t } = useI18n()
const id = useId()
const BAND = 74

const foot = computed(() => (props.labels ? BAND : props.size === 'small' ? 2 : 8))
const above = computed(() => Math.max(6, Math.min(props.ground - 4, props.size === 'large' ? 150 : props.ground - 4)))
const d = computed(() =>
  cutaway(props.section, props.width, props.height - props.ground - foot.value, props.ground, above.value),
)
const share = (have: number | null, holds: number) =>
  have === null ? null : Math.round(Math.max(0, Math.min(1, have / holds)) * 100)
const ball = computed(() => share(props.section.ball_available_l, props.section.ball_holds_l))
const ring = computed(() => share(props.section.ring_available_l, props.section.ring_holds_l))
const far = computed(() => (d.value.farFill ? share(props.section.far_available_l, props.section.far_holds_l) : null))
const heavy = computed(() => ['due', 'late', 'waits'].includes(props.section.state))
const stroke = computed(() => (heavy.value ? 2 : 1))
/** Water of the ring: what our water reaches, and what only rain does, outside it or between it and the ball. */
const ringFills = computed(() => {
  const { centre, nearFrom, nearHalf, ringFill, farFill } = d.value
  const band = (from: number, to: number, fill: { y: number; height: number }) =>
    from > 0
      ? [
          { x: centre - to, width: to - from, ...fill },
          { x: centre + from, width: to - from, ...fill },
        ]
      : [{ x: centre - to, width: 2 * to, ...fill }]
  const near = ringFill ? band(nearFrom, nearHalf, ringFill) : []
  if (!farFill) return near
  const inside = nearFrom > 0 ? band(0, nearFrom, farFill) : []
  return [...near, ...inside, ...band(nearHalf, Math.max(nearHalf, centre), farFill)]
})
const reachLines = computed(() =>
  (d.value.nearFrom > 0 ? [d.value.nearFrom, d.value.nearHalf] : [d.value.nearHalf])
    .flatMap((x) => [d.value.centre - x, d.value.centre + x])
    .map((x) => `M${x} ${props.ground}v${d.value.ringDepth}`)
    .join(''),
)
const rodX = computed(() => d.value.centre + (Math.max(d.value.ballHalf, d.value.nearFrom) + d.value.nearHalf) / 2)
const rodY = computed(() => props.ground + (props.proofM ?? 0) * d.value.scale)
const mulchX = computed(
  () => d.value.centre + (props.section.mulch_outer_radius_m ?? props.section.ball_radius_m) * d.value.scale * 0.86,
)
const bandY = computed(() => props.ground + d.value.ringDepth + 30)
const words = computed(() =>
  ball.value === null
    ? t('cutaway.unknown')
    : t('cutaway.words', { state: t(`state.${props.section.state}`), ball: ball.value, ring: ring.value }) +
      (far.value === null ? '' : ` ${t('cutaway.beyondWords', { share: far.value })}`),
)
const held = (have: number | null, holds: number) =>
  t('cutaway.of', { have: text('volume', Math.max(0, have ?? 0), 1), holds: text('volume', holds, 1) })
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    :width="width"
    :height="height"
    role="img"
    :aria-label="words"
    class="cutaway"
    :class="size"
  >
    <defs>
      <clipPath :id="`${id}-ball`"><path :d="d.ball" /></clipPath>
      <clipPath :id="`${id}-ring`"><path :d="d.ring" /></clipPath>
    </defs>
    <rect
      v-if="size !== 'small'"
      class="soil"
      x="0"
      :y="ground"
      :width="width"
      :height="Math.max(0, height - ground)"
    />
    <path v-if="size === 'large'" class="established" :d="d.established" />
    <path class="ring" :d="d.ring" />
    <g v-if="d.ringFill" :clip-path="`url(#${id}-ring)`">
      <rect v-for="fill in ringFills" :key="fill.x" class="ring-water" v-bind="fill" />
      <path v-if="d.farFill && size !== 'small'" class="reach" :d="reachLines" />
    </g>
    <path
      class="outline"
      :class="{ unknown: !d.ringFill }"
      :d="d.ring"
      :stroke-width="size === 'small' ? 1 : stroke"
      fill="none"
    />
    <g v-if="size !== 'small'" class="roots">
      <path v-for="root in d.roots" :key="root" :d="root" />
    </g>
    <path class="ball" :d="d.ball" />
    <g v-if="d.ballFill" :clip-path="`url(#${id}-ball)`">
      <rect class="ball-water" x="0" :y="d.ballFill.y" :width="width" :height="d.ballFill.height" />
    </g>
    <path class="ball-outline" :class="{ unknown: !d.ballFill }" :d="d.ball" :stroke-width="stroke + 0.5" fill="none" />
    <template v-if="size !== 'small'">
      <path v-for="part in d.mulch" :key="part" class="mulch" :d="part" />
      <path v-for="part in d.basin" :key="part" class="basin" :d="part" />
    </template>
    <rect v-if="d.standingWater" class="standing" x="0" :y="ground - 4" :width="width" height="4" />
    <line v-if="section.state !== 'late'" class="line" x1="0" :x2="width" :y1="ground" :y2="ground" />
    <path
      v-else
      class="line"
      :d="`M0 ${ground}H${width * 0.12}l${width * 0.03} ${size === 'small' ? 4 : 12}l${width * 0.03} -${size === 'small' ? 4 : 12}H${width}`"
    />
    <line v-if="size === 'small'" class="trunk-stroke" :x1="width / 2" :x2="width / 2" :y1="ground" :y2="2" />
    <template v-else>
      <g v-if="d.crown && size === 'large'" class="crown">
        <path v-for="branch in d.crown.branches" :key="branch" class="branch" :d="branch" />
        <path
          class="leader"
          :d="`M${d.centre - d.crown.half} ${d.crown.y - 5}v10M${d.centre + d.crown.half} ${d.crown.y - 5}v10M${d.centre - d.crown.half} ${d.crown.y}H${d.centre + d.crown.half}`"
        />
        <text class="small" :x="d.centre" :y="d.crown.y - 10" text-anchor="middle">
          {{ t('cutaway.crown', { across: text('large', section.crown_diameter_m) }) }}
        </text>
      </g>
      <path class="trunk" :d="d.trunk" />
    </template>

    <g v-if="proofM" class="rod">
      <line :x1="rodX" :x2="rodX" :y1="ground - 46" :y2="rodY" />
      <line :x1="rodX - 9" :x2="rodX + 9" :y1="ground - 46" :y2="ground - 46" />
      <text :x="rodX + 12" :y="ground - 34">{{ text('small', proofM, 0) }}</text>
    </g>

    <g v-if="mulchLabel && size === 'large'" class="labels">
      <path
        class="leader"
        :d="`M${width - 40} ${ground - 50}L${mulchX} ${ground - section.mulch_depth_m * d.scale * 0.5}`"
      />
      <circle :cx="mulchX" :cy="ground - section.mulch_depth_m * d.scale * 0.5" r="3" />
      <text class="small" :x="width - 4" :y="ground - 56" text-anchor="end">{{ mulchLabel }}</text>
    </g>
    <g v-if="labels" class="labels">
      <g class="dimension">
        <path
          :d="`M${d.centre - d.ringHalf} ${bandY - 22}v10M${d.centre + d.ringHalf} ${bandY - 22}v10M${d.centre - d.ringHalf} ${bandY - 17}H${d.centre + d.ringHalf}`"
        />
      </g>
      <text class="small" :x="d.centre" :y="bandY" text-anchor="middle">
        {{
          t('cutaway.roots', {
            across: text('large', section.root_radius_m * 2),
            deep: text('small', section.root_depth_m, 0),
          })
        }}
      </text>
      <template v-if="ball !== null">
        <path
          class="leader"
          :d="`M${d.centre - d.ballHalf * 0.4} ${ground + d.ballDepth * 0.82}L${Math.min(70, d.centre - d.ringHalf)} ${bandY}`"
        />
        <circle :cx="d.centre - d.ballHalf * 0.4" :cy="ground + d.ballDepth * 0.82" r="3" />
        <text class="figure" x="16" :y="bandY + 18">{{ t('cutaway.ball', { share: ball }) }}</text>
        <text class="small" x="16" :y="bandY + 38">{{ held(section.ball_available_l, section.ball_holds_l) }}</text>
        <path
          class="leader"
          :d="`M${rodX} ${ground + d.ringDepth * 0.72}L${Math.max(width - 70, d.centre + d.ringHalf)} ${bandY}`"
        />
        <circle :cx="rodX" :cy="ground + d.ringDepth * 0.72" r="3" />
        <text class="figure" :x="width - 16" :y="bandY + 18" text-anchor="end">
          {{ t('cutaway.ring', { share: ring }) }}
        </text>
        <text v-if="far !== null" class="small" :x="d.centre" :y="bandY + 20" text-anchor="middle">
          {{ t('cutaway.beyond', { share: far }) }}
        </text>
        <text class="small" :x="width - 16" :y="bandY + 38" text-anchor="end">
          {{ held(section.ring_available_l, section.ring_holds_l) }}
        </text>
      </template>
    </g>
  </svg>
</template>

<style scoped>
.cutaway {
  display: block;
  max-width: 100%;
}
.soil {
  fill: var(--soil);
}
.ring {
  fill: var(--ball);
}
.ring-water {
  fill: var(--water-pale);
}
.ball {
  fill: var(--hollow);
}
.ball-water {
  fill: var(--water-fill);
}
.outline {
  stroke: var(--root);
}
.ball-outline {
  stroke: var(--ink);
}
.unknown {
  stroke-dasharray: 4 3;
}
.reach {
  stroke: var(--root);
  stroke-dasharray: 3 3;
  fill: none;
}
.established {
  fill: none;
  stroke: var(--ink-2);
  stroke-dasharray: 2 5;
}
.roots path {
  fill: none;
  stroke: var(--root);
  stroke-width: 1.4;
  stroke-linecap: round;
}
.branch {
  fill: none;
  stroke: var(--bark);
  stroke-width: 3.5;
  stroke-linecap: round;
}
.mulch {
  fill: var(--straw);
  stroke: var(--ink);
  stroke-width: 1;
}
.basin {
  fill: var(--soil);
  stroke: var(--ink);
  stroke-width: 1;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
  fill: none;
}
.small .line {
  stroke-width: 1.5;
}
.standing {
  fill: var(--water-fill);
  stroke: var(--ink);
  stroke-width: 0.5;
}
.trunk {
  fill: var(--bark);
}
.trunk-stroke {
  stroke: var(--bark);
  stroke-width: 2;
}
.rod line {
  stroke: var(--ink);
  stroke-width: 3;
}
text {
  fill: var(--ink);
  font-family: var(--condensed);
  font-weight: 600;
  font-size: var(--text-1);
}
.figure {
  font-family: 'Barlow', sans-serif;
  font-size: var(--text-3);
}
text.small {
  font-weight: 500;
  font-size: var(--text-1);
}
.leader,
.dimension path {
  stroke: var(--ink);
  stroke-width: 1;
  fill: none;
}
</style>
