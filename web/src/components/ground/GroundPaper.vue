<script setup lang="ts">
/** The plan on one sheet: the whole site to scale; stops that are too close to be read there each by themselves. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import { pourOf } from '@/composables/useRound'
import { fullDay } from '@/logic/dates'
import { bar, detail, everything, frameOf, groups, inTurn, middle, spotOf, type Frame, type Group, type Ground, type Spot } from '@/logic/ground' // prettier-ignore
import { isUs, text } from '@/units'

const props = defineProps<{ ground: Ground; round: boolean }>()
const { t } = useI18n()
const WIDTH = 720
const MOST_HIGH = 420
const INSET = { width: 350, height: 130 }
const CUT = { width: 34, height: 29, ground: 12 }
const FOOT_M = 0.3048

/** A frame laid into a box of px, to one scale; north is up. */
function fit(frame: Frame, width: number, most: number, edge: number) {
  const [west, south, east, north] = frame
  const k = Math.min((width - 2 * edge) / (east - west), (most - 2 * edge) / (north - south))
  const height = Math.min(most, (north - south) * k + 2 * edge)
  const left = (width - (east - west) * k) / 2
  return { k, height, x: (m: number) => left + (m - west) * k, y: (m: number) => height - edge - (m - south) * k }
}
const whole = computed(() => fit(frameOf(everything(props.ground), 2), WIDTH, MOST_HIGH, 34))
const all = computed(() => groups(props.ground))
const apart = computed(() => all.value.filter((one) => detail(one, whole.value.k) !== 'cutaway'))
const within = computed(() => all.value.filter((one) => detail(one, whole.value.k) === 'cutaway'))
/** A tree is only drawn as a cutaway where its neighbor is far enough. */
const inset = (group: Group) => {
  const at = fit(frameOf(group.trees.map(spotOf), 2), INSET.width, INSET.height, 26)
  const skip = Math.max(1, Math.ceil(CUT.width / Math.max(1, group.apart_m * at.k)))
  return { ...at, height: INSET.height, shift: (INSET.height - at.height) / 2, skip }
}
const insets = computed(() => apart.value.map((group) => ({ group, at: inset(group) })))
const length = computed(() => bar(140 / whole.value.k, isUs.value ? FOOT_M : null))
const path = (spots: readonly Spot[], at: { x: (m: number) => number; y: (m: number) => number }) =>
  'M' + spots.map(([x, y]) => `${at.x(x).toFixed(1)} ${at.y(y).toFixed(1)}`).join('L')
const matrix = computed(() => {
  const m = props.ground.picture?.matrix
  if (!m) return ''
  const [a, b, c, d, e, f] = m as [number, number, number, number, number, number]
  const { k, x, y } = whole.value
  return `matrix(${a * k} ${-b * k} ${c * k} ${-d * k} ${x(e)} ${y(f)})`
})
const turns = computed(() => inTurn(props.ground))
</script>

<template>
  <div class="paper">
    <svg class="whole" :viewBox="`0 0 ${WIDTH} ${whole.height}`" aria-hidden="true">
      <clipPath id="sheet"><rect :width="WIDTH" :height="whole.height" /></clipPath>
      <g clip-path="url(#sheet)">
        <image
          v-if="matrix"
          :href="`/api/sites/${ground.site_id}/ground/picture?of=${ground.picture!.name}`"
          :width="ground.picture!.width_px"
          :height="ground.picture!.height_px"
          :transform="matrix"
          opacity="0.5"
        />
        <template v-for="thing in ground.things" :key="thing.id">
          <path
            v-for="(spots, n) in thing.shape === 'point' ? [] : thing.paths"
            :key="n"
            class="thing"
            :class="[thing.kind, thing.shape]"
            :d="path(spots as Spot[], whole) + (thing.shape === 'area' ? 'Z' : '')"
          />
          <g
            v-for="(spots, n) in thing.shape === 'point' ? thing.paths : []"
            :key="`p${n}`"
            :transform="`translate(${whole.x(spots[0]![0]!)} ${whole.y(spots[0]![1]!)})`"
          >
            <rect class="spot" x="-5" y="-5" width="10" height="10" />
            <text x="9" y="5">{{ thing.name || t(`ground.kind.${thing.kind}`) }}</text>
          </g>
        </template>
        <path v-for="line in ground.lines" :key="line.id" class="line" :d="path(line.way as Spot[], whole)" />
        <path v-if="round && turns.length > 1" class="round" :d="path(turns.map(spotOf), whole)" />
        <template v-for="group in within" :key="group.stop">
          <g v-for="tree in group.trees" :key="tree.id">
            <CutawayDrawing
              v-if="tree.section"
              :section="tree.section"
              size="small"
              v-bind="CUT"
              :x="whole.x(tree.x_m) - CUT.width / 2"
              :y="whole.y(tree.y_m) - CUT.ground"
            />
            <text class="tag" :x="whole.x(tree.x_m)" :y="whole.y(tree.y_m) + 28" text-anchor="middle">
              {{ tree.tag }}
            </text>
            <text
              v-if="round && tree.turn !== null"
              class="turn"
              :x="whole.x(tree.x_m) + 16"
              :y="whole.y(tree.y_m) - 8"
            >
              {{ tree.turn }}
            </text>
          </g>
        </template>
        <g v-for="group in apart" :key="group.stop">
          <circle class="at" :cx="whole.x(middle(group.trees)[0])" :cy="whole.y(middle(group.trees)[1])" r="5" />
          <text :x="whole.x(middle(group.trees)[0]) + 9" :y="whole.y(middle(group.trees)[1]) + 5">
            {{ group.stop || t('ground.noStop') }}
          </text>
        </g>
      </g>
      <path class="bar" :d="`M12 ${whole.height - 14}v6h${length * whole.k}v-6`" />
      <text :x="18 + length * whole.k" :y="whole.height - 6">{{ text('large', length, 0) }}</text>
      <path class="north" :d="`M${WIDTH - 22} 8l9 30l-9 -7l-9 7Z`" />
      <text :x="WIDTH - 22" y="54" text-anchor="middle">{{ t('ground.north') }}</text>
    </svg>
    <div class="insets">
      <figure v-for="{ group, at } in insets" :key="group.stop">
        <figcaption>
          {{ group.stop || t('ground.noStop') }}
          <span>{{ t('ground.insetScale', { width: text('large', INSET.width / at.k, 0) }) }}</span>
        </figcaption>
        <svg :viewBox="`0 0 ${INSET.width} ${INSET.height}`" aria-hidden="true">
          <g :transform="`translate(0 ${at.shift})`">
            <template v-for="line in ground.lines" :key="line.id">
              <path
                v-if="group.trees.some((tree) => tree.line === line.name)"
                class="line"
                :d="path(line.way as Spot[], at)"
              />
            </template>
            <g v-for="(tree, n) in group.trees" :key="tree.id">
              <circle class="trunk" :cx="at.x(tree.x_m)" :cy="at.y(tree.y_m)" r="3" />
              <template v-if="n % at.skip === 0">
                <CutawayDrawing
                  v-if="tree.section"
                  :section="tree.section"
                  size="small"
                  v-bind="CUT"
                  :x="at.x(tree.x_m) - CUT.width / 2"
                  :y="at.y(tree.y_m) - CUT.ground"
                />
                <text class="tag" :x="at.x(tree.x_m)" :y="at.y(tree.y_m) + 30" text-anchor="middle">
                  {{ tree.tag }}
                </text>
              </template>
            </g>
          </g>
        </svg>
      </figure>
    </div>
    <p v-if="round && turns.length" class="today">
      {{ t('ground.paperRound', { day: fullDay(ground.today) }) }}
      <span v-for="tree in turns" :key="tree.id">{{
        t('ground.paperTurn', {
          n: tree.turn,
          tag: tree.tag,
          amount: tree.next ? text('volume', pourOf(tree.next).litres) : '',
        })
      }}</span>
    </p>
    <p class="foot">{{ t('ground.paperFoot', { day: fullDay(ground.today) }) }}</p>
  </div>
</template>

<style scoped>
.paper {
  display: none;
}
@media print {
  .paper {
    display: block;
    break-inside: avoid;
  }
}
.whole {
  display: block;
  width: 100%;
  border: 1px solid var(--ink);
}
text {
  font-size: 11pt;
  fill: var(--ink);
}
.tag {
  font-family: var(--condensed);
}
.turn {
  font-weight: 600;
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.round {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 2 5;
}
.thing.area {
  fill: var(--pavement);
  stroke: var(--edge);
}
.thing.line {
  stroke: var(--edge);
  stroke-width: 2;
}
.spot,
.at,
.trunk,
.north {
  fill: var(--ink);
}
.bar {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.insets {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2mm 4mm;
  margin-top: 3mm;
}
figure svg {
  display: block;
  width: 100%;
  border: 1px solid var(--edge);
}
figcaption {
  font-weight: 600;
}
figcaption span {
  font-weight: 400;
}
.today span {
  margin-left: 3mm;
  white-space: nowrap;
}
.foot {
  font-size: 10pt;
}
</style>
