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
const MOST_HIGH = 400
const INSET = { width: 350, height: 96 }
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
/** A row by itself, turned so that it runs to the right: each of its trees, as large as there is room for. */
function inset(group: Group) {
  const spots = group.trees.map(spotOf)
  const [from, to] = [spots[0]!, spots.at(-1)!]
  const turn = spots.length > 1 ? Math.atan2(to[1] - from[1], to[0] - from[0]) : 0
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const turned = ([x, y]: Spot): Spot => [x * c + y * s, y * c - x * s]
  const frame = spots.map(turned)
  const [west, east] = [Math.min(...frame.map(([x]) => x)), Math.max(...frame.map(([x]) => x))]
  const [south, north] = [Math.min(...frame.map(([, y]) => y)), Math.max(...frame.map(([, y]) => y))]
  const most = (INSET.height - 60) / Math.max(1, north - south)
  const k = Math.min((INSET.width - 60) / Math.max(4, east - west), most)
  const x = (spot: Spot) => INSET.width / 2 + (turned(spot)[0] - (west + east) / 2) * k
  const y = (spot: Spot) => INSET.height / 2 - (turned(spot)[1] - (south + north) / 2) * k
  const skip = Math.max(1, Math.ceil(CUT.width / Math.max(1, group.apart_m * k)))
  return { k, x, y, skip, north: (turn * 180) / Math.PI }
}
/** How many names stand at the same place above it. */
const nth = (group: Group) => {
  const [x, y] = middle(group.trees)
  const near = (other: Group) => {
    const [a, b] = middle(other.trees)
    return Math.abs(a - x) * whole.value.k < 120 && Math.abs(b - y) * whole.value.k < 24
  }
  return apart.value.slice(0, apart.value.indexOf(group)).filter(near).length
}
const insets = computed(() => apart.value.map((group) => ({ group, at: inset(group) })))
const insetWay = (spots: readonly Spot[], at: ReturnType<typeof inset>) =>
  'M' + spots.map((spot) => `${at.x(spot).toFixed(1)} ${at.y(spot).toFixed(1)}`).join('L')
/** A name stands to the left of what lies near the right edge. */
const side = (x: number) => (x > WIDTH - 170 ? { anchor: 'end', dx: -9 } : { anchor: 'start', dx: 9 })
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
          <circle
            v-for="tree in group.trees"
            :key="tree.id"
            class="at"
            :cx="whole.x(tree.x_m)"
            :cy="whole.y(tree.y_m)"
            r="2.5"
          />
          <text
            :x="whole.x(middle(group.trees)[0]) + side(whole.x(middle(group.trees)[0])).dx"
            :y="whole.y(middle(group.trees)[1]) + 5 + 18 * nth(group)"
            :text-anchor="side(whole.x(middle(group.trees)[0])).anchor"
          >
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
          <template v-for="line in ground.lines" :key="line.id">
            <path
              v-if="group.trees.some((tree) => tree.line === line.name)"
              class="line"
              :d="insetWay(line.way as Spot[], at)"
            />
          </template>
          <g v-for="(tree, n) in group.trees" :key="tree.id">
            <circle class="trunk" :cx="at.x(spotOf(tree))" :cy="at.y(spotOf(tree))" r="3" />
            <template v-if="n % at.skip === 0">
              <CutawayDrawing
                v-if="tree.section"
                :section="tree.section"
                size="small"
                v-bind="CUT"
                :x="at.x(spotOf(tree)) - CUT.width / 2"
                :y="at.y(spotOf(tree)) - CUT.ground"
              />
              <text class="tag" :x="at.x(spotOf(tree))" :y="at.y(spotOf(tree)) + 30" text-anchor="middle">
                {{ tree.tag }}
              </text>
            </template>
          </g>
          <path
            class="north"
            :transform="`translate(${INSET.width - 18} 18) rotate(${at.north})`"
            d="M0 -12l5 18l-5 -4l-5 4Z"
          />
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
figure {
  margin: 0;
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
  display: inline-block;
  margin-left: 3mm;
}
.foot {
  font-size: 10pt;
}
</style>
