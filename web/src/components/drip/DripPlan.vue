<script setup lang="ts">
/** A layout from above, to scale: tree, roots, wet circles, tubes, fittings, what stands beside it; each emitter can be asked. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import DripKey from '@/components/drip/DripKey.vue'
import { useInHand } from '@/composables/useInHand'
import { at, outward, path, placeToward, widestGap, type PlanFrame } from '@/drawing/plan'
import { WRONG, wrongOf } from '@/logic/caught'
import { keyOf, type Handle } from '@/logic/handles'
import { isUs, text } from '@/units'

const props = defineProps<{
  look: Schema['DripLook']
  size: number
  crown?: number
  mulch?: number | null
  /** half the side of the square that is shown, in m; the same for all years, so that growth is seen */
  reach?: number
  /** the last catch test: what it found wrong is marked where it lies */
  caught?: Schema['CatchOut'] | null
  /** emitters can be moved; adding: the next tap puts one there; step: how far an arrow key moves one, in m */
  editing?: boolean
  adding?: boolean
  step?: number
  snap?: (x: number, y: number) => [number, number]
  /** another object with each answer: what was asked for lies there now, or can't be laid and lies where it lay */
  answered?: object
  /** what else can be taken hold of, and what is said of it */
  handles?: Handle[]
  handleSays?: (handle: Handle) => string
}>()
const emit = defineEmits<{
  move: [number: number, x: number, y: number]
  add: [x: number, y: number]
  remove: [number: number]
  hold: [handle: Handle, x: number, y: number]
  nudge: [handle: Handle, right: number, up: number]
}>()
/** The emitter that is asked, or in hand. */
const asked = defineModel<number | null>('asked', { default: null })
const grip = defineModel<Handle | null>('grip', { default: null })
const { t } = useI18n()
const drawing = ref<SVGSVGElement | null>(null)
watch(
  () => props.look,
  () => props.editing || (asked.value = null),
)
const half = computed(() => props.reach ?? props.look.reach_m)
const frame = computed<PlanFrame>(() => ({
  cx: props.size / 2,
  cy: props.size / 2,
  scale: props.size / (2 * half.value),
}))
const px = (metres: number) => metres * frame.value.scale
const grips = computed(() => (props.editing ? (props.handles ?? []) : []))
const { held, placed, choose, take, drag, drop, leave, key, turn, put } = useInHand(
  props,
  grips,
  asked,
  grip,
  drawing,
  frame,
  {
    move: (number, x, y) => emit('move', number, x, y),
    add: (x, y) => emit('add', x, y),
    remove: (number) => emit('remove', number),
    hold: (handle, x, y) => emit('hold', handle, x, y),
    nudge: (handle, right, up) => emit('nudge', handle, right, up),
  },
)
const bar = computed(() => {
  const steps = isUs.value ? [0.3048, 0.6096, 1.524, 3.048] : [0.25, 0.5, 1, 2]
  return steps.find((s) => px(s) > 56) ?? steps[3]!
})
/** A place kept so far inside the frame, where what it is of lies beyond. */
const within = (value: number, before: number, after: number) => Math.min(props.size - after, Math.max(before, value))
/** How far things beside it are, told inside the drawing near their edges. */
const distances = computed(() =>
  props.look.shapes
    .filter(
      (s, n, all) =>
        s.kind !== 'post' && all.findIndex((o) => o.kind === s.kind && o.bearing_deg === s.bearing_deg) === n,
    )
    .map((s) => {
      const turn = (s.bearing_deg * Math.PI) / 180
      const [x, y] = at(frame.value, s.distance_m * Math.sin(turn), s.distance_m * Math.cos(turn))
      const side = Math.abs(Math.sin(turn)) > 0.5
      const words = `${t(`drip.beside.${s.kind}`)} ${text('large', s.distance_m, 1)}`
      const left = Math.sin(turn) > 0
      return {
        words,
        x: within(side ? x + (left ? -8 : 8) : x, 8, 8),
        y: within(side ? props.size * 0.87 : y + (Math.cos(turn) > 0 ? 22 : -10), 22, 40),
        anchor: side ? (left ? 'end' : 'start') : 'middle',
      }
    }),
)
const ring = computed(() => props.look.choice.pattern !== 'row_lines')
const shown = computed(() => props.look.emitters.find((e) => e.number === asked.value) ?? null)
const found = computed(() => WRONG.filter((kind) => props.caught?.[kind].length))
function say(e: Schema['DripperOut']) {
  const wrong = wrongOf(props.caught, e.number)
  const words = t('drip.emitterSays', {
    n: e.number,
    flow: text('flow', e.flow_l_per_h),
    width: text('small', e.width_m, 0),
    depth: text('small', e.depth_m, 0),
    head: text('head', e.head_m),
  })
  return wrong ? `${words} ${t(`drip.catch.${wrong}`, { numbers: e.number }, 1)}` : words
}
const dim = computed(() => {
  const r = ring.value ? props.look.choice.radius_m : props.look.choice.offset_m
  const [x, y] = placeToward(r, widestGap(props.look))
  return { r, x, y }
})
</script>

<template>
  <figure>
    <svg
      ref="drawing"
      class="drip-drawing"
      :class="{ editing, adding }"
      :viewBox="`0 0 ${size} ${size}`"
      role="group"
      :aria-label="t('drip.planLabel', { n: look.emitters.length })"
      @click="put"
      @pointerdown="take"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="leave"
    >
      <clipPath id="drip-frame"><rect width="100%" height="100%" /></clipPath>
      <g clip-path="url(#drip-frame)">
        <path v-for="(s, n) in look.shapes" :key="n" :class="['shape', s.kind]" :d="path(frame, s.outline, true)" />
        <circle v-if="mulch" class="mulch" :cx="frame.cx" :cy="frame.cy" :r="px(mulch)" />
        <circle v-if="crown" class="crown" :cx="frame.cx" :cy="frame.cy" :r="px(crown)" />
        <circle
          v-for="e in look.emitters"
          :key="e.number"
          class="wet"
          :cx="at(frame, e.x_m, e.y_m)[0]"
          :cy="at(frame, e.x_m, e.y_m)[1]"
          :r="px(e.width_m / 2)"
        />
        <circle class="roots" :cx="frame.cx" :cy="frame.cy" :r="px(look.scene.roots_now_m)" />
        <circle class="roots later" :cx="frame.cx" :cy="frame.cy" :r="px(look.scene.roots_year_m)" />
        <circle class="ball" :cx="frame.cx" :cy="frame.cy" :r="px(look.scene.ball_radius_m)" />
        <path
          v-for="(r, n) in look.runs"
          :key="n"
          :class="['tube', { thin: r.bore_mm < 6 }]"
          :d="path(frame, r.path)"
        />
        <g v-for="(f, n) in look.fittings" :key="n" :transform="`translate(${at(frame, f.x_m, f.y_m).join(' ')})`">
          <path v-if="f.kind === 'pin'" class="pin" d="M-4-4L4 4M4-4L-4 4" />
          <rect v-else-if="f.kind === 'tee'" class="tee" x="-5" y="-5" width="10" height="10" />
          <path v-else-if="f.kind === 'coupler'" class="coupler" d="M-7-5V5M7-5V5M-7 0H7" />
          <path v-else class="closure" d="M-6-6L6 6M-6 6L6-6" />
        </g>
        <circle class="trunk" :cx="frame.cx" :cy="frame.cy" :r="Math.max(4, px(look.scene.trunk_diameter_m / 2))" />
        <path
          v-if="ring"
          class="dim"
          :d="`M${frame.cx} ${frame.cy}L${at(frame, dim.x, dim.y).join(' ')}`"
          marker-end="url(#drip-tip)"
        />
        <text
          v-if="ring"
          class="halo"
          :x="at(frame, dim.x * 1.06, dim.y)[0]"
          :y="at(frame, dim.x, dim.y)[1] + (dim.y < 0 ? 20 : -8)"
          :text-anchor="dim.x < 0 ? 'end' : 'start'"
        >
          {{ text('small', dim.r, editing ? 1 : 0) }}
        </text>
        <g
          v-for="e in look.emitters"
          :key="e.number"
          class="emitter"
          :class="{ asked: asked === e.number, held: held?.number === e.number }"
          tabindex="0"
          role="button"
          :aria-label="say(e)"
          :aria-pressed="asked === e.number"
          :transform="`translate(${at(frame, ...placed(e)).join(' ')})`"
          :data-thing="e.number"
          @click="editing || (asked = e.number)"
          @focus="choose({ emitter: e, handle: null })"
          @keydown="key($event, e)"
          @keydown.enter.prevent="asked = e.number"
          @keydown.space.prevent="asked = e.number"
        >
          <circle class="hit" :r="editing ? 22 : 14" />
          <circle class="dot" r="6" />
          <path v-if="wrongOf(caught, e.number) === 'blocked'" class="fault" d="M-9-9L9 9M9-9L-9 9" />
          <path v-else-if="wrongOf(caught, e.number) === 'weak'" class="fault" d="M-9 9L0-9L9 9Z" />
          <circle v-else-if="wrongOf(caught, e.number) === 'leaking'" class="fault" r="11" />
          <text
            class="halo number"
            :x="outward(e.x_m, e.y_m, 18)[0]"
            :y="outward(e.x_m, e.y_m, 18)[1] + 6"
            text-anchor="middle"
          >
            {{ e.number }}
          </text>
        </g>
        <g
          v-for="h in grips"
          :key="keyOf(h)"
          class="grip"
          :class="{ asked: grip && keyOf(grip) === keyOf(h) }"
          tabindex="0"
          role="button"
          :aria-label="handleSays?.(h)"
          :transform="`translate(${at(frame, h.x, h.y).join(' ')})`"
          :data-thing="keyOf(h)"
          @focus="choose({ emitter: null, handle: h })"
          @keydown="turn($event, h)"
        >
          <circle class="hit" r="22" />
          <path :class="h.part" :d="h.part === 'tee' ? 'M-7-7H7V7H-7Z' : 'M0-9L9 0L0 9L-9 0Z'" />
        </g>
      </g>
      <text v-for="d in distances" :key="d.words + d.x" class="halo beside" :x="d.x" :y="d.y" :text-anchor="d.anchor">
        {{ d.words }}
      </text>
      <path class="scale" :d="`M12 ${size - 18}v8h${px(bar)}v-8`" />
      <text class="halo" x="12" :y="size - 24">{{ text('large', bar) }}</text>
      <g :transform="`translate(${size - 26} 38)`" role="img" :aria-label="t('drip.north')">
        <path class="north" d="M0 22V-18L-7-4M0-18L7-4" />
        <text class="halo" y="-22" text-anchor="middle">{{ t('drip.n') }}</text>
      </g>
      <defs>
        <marker id="drip-tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="8" markerHeight="8" orient="auto">
          <path d="M0 0L8 4L0 8" class="tip" />
        </marker>
      </defs>
    </svg>
    <figcaption>
      <p v-if="shown || !editing" class="asked" aria-live="polite">{{ shown ? say(shown) : t('drip.askEmitter') }}</p>
      <DripKey :look="look" :crown="Boolean(crown)" :wrong="found" />
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
figure > svg {
  display: block;
  width: 100%;
  height: auto;
  border: 1px solid var(--ink);
  background: var(--paper);
}
.dim,
.scale,
.north,
.tip {
  stroke: var(--ink);
  stroke-width: 1.2;
  fill: none;
}
.hit {
  fill: transparent;
}
.dot {
  stroke: var(--paper);
  stroke-width: 1.5;
}
.emitter {
  cursor: pointer;
}
.editing .emitter {
  cursor: grab;
  touch-action: none;
}
.adding {
  cursor: crosshair;
}
.held .dot {
  fill: var(--paper);
  stroke: var(--water);
  stroke-width: 3;
}
.grip {
  cursor: grab;
  touch-action: none;
}
.grip path {
  fill: var(--paper);
  stroke: var(--water);
  stroke-width: 3;
}
.grip .beside {
  stroke: var(--ink);
}
.emitter:focus,
.grip:focus {
  outline: none;
}
.emitter:focus-visible .hit,
.emitter.asked .hit,
.grip:focus-visible .hit,
.grip.asked .hit {
  stroke: var(--water);
  stroke-width: 3;
}
text {
  font-family: var(--condensed);
  font-size: var(--text-1);
  font-weight: 600;
  fill: var(--ink);
}
.halo {
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
  stroke-linejoin: round;
}
figcaption {
  display: grid;
  gap: var(--space-1);
  padding-top: var(--space-2);
}
p.asked {
  font-weight: 500;
}
@media print {
  figure > svg {
    max-width: 105mm;
  }
  p.asked {
    display: none;
  }
}
</style>

<style src="./dripDrawing.css"></style>
