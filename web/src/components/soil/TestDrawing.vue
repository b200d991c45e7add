<script setup lang="ts">
/** The measured tests, drawn to scale from what was typed; where nothing is typed yet, from a usual reading, dashed. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { text } from '@/units'

const props = defineProps<{ kind: string; form: Record<string, unknown> }>()
const { t } = useI18n()
const W = 360
const H = 300
const number = (name: string) => {
  const v = props.form[name]
  const n = typeof v === 'number' ? v : typeof v === 'string' && v.trim() ? Number(v.replace(',', '.')) : NaN
  return Number.isFinite(n) && n >= 0 ? n : null
}
const inches = (m: number | null) => (m === null ? '' : text('small', m, 1))

/** Jar or percentages: tops of three layers as shares of the whole, bottom up. */
const layers = computed(() => {
  const jar = props.kind === 'jar'
  const read = jar
    ? [number('sand_top_m'), number('silt_top_m'), number('clay_top_m')]
    : [number('sand_percent'), number('silt_percent'), number('clay_percent')]
  const usual = jar ? [0.04, 0.08, 0.1] : [40, 40, 20]
  const got = read.map((v, i) => v ?? usual[i]!)
  const tops = jar ? got : [got[0]!, got[0]! + got[1]!, got[0]! + got[1]! + got[2]!]
  const most = Math.max(...tops, 1e-9)
  return ['sand', 'silt', 'clay'].map((name, i) => {
    const low = i ? tops[i - 1]! / most : 0
    const high = tops[i]! / most
    return {
      name,
      known: read[i] !== null,
      y: 262 - 190 * Math.max(low, high),
      height: Math.max(0, 190 * (high - low)),
      mark: jar ? inches(read[i]!) : read[i] === null ? '' : `${Math.round(read[i]!)} %`,
    }
  })
})
/** Hole: the deepest water fills 150 px. */
const hole = computed(() => {
  const first = number('first_depth_m')
  const last = number('last_depth_m')
  const across = number('across_m') ?? 0.3
  const deep = Math.max(first ?? 0.3, last ?? 0, 0.05)
  const scale = 170 / deep
  const fell = last ?? deep * 0.8
  const half = Math.min(120, Math.max(20, (across * scale) / 2))
  return { first, last, half, top: 250 - (first ?? deep) * scale, level: 250 - fell * scale, known: last !== null }
})
const fallen = computed(() => {
  const f = number('fallen_m')
  return { f, px: Math.min(80, Math.max(4, (f ?? 0.02) * 1200)) }
})
const depth = computed(() => {
  const d = number('depth_m')
  const shown = d ?? 0.6
  return { d, y: 60 + 200 * Math.min(1, shown / Math.max(0.9, shown)) }
})
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="drawing" role="img" :aria-label="t(`soil.test.${kind}.drawing`)">
    <template v-if="kind === 'jar' || kind === 'percentages'">
      <g v-for="l in layers" :key="l.name">
        <rect x="120" :y="l.y" width="120" :height="l.height" :class="[l.name, { guess: !l.known }]" />
        <text x="108" :y="l.y + l.height / 2 + 5" text-anchor="end">{{ t(`soil.${l.name}`) }}</text>
        <path class="tick" :d="`M240 ${l.y}H256`" />
        <text x="262" :y="l.y + 5">{{ l.mark || (kind === 'jar' ? t(`soil.after.${l.name}`) : '') }}</text>
      </g>
      <path
        v-if="kind === 'jar'"
        class="glass"
        d="M128 20H232V40C240 44 244 48 244 56V258C244 264 240 268 232 268H128C120 268 116 264 116 258V56C116 48 120 44 128 40Z"
      />
    </template>
    <template v-else-if="kind === 'drain_hole'">
      <rect class="soil" x="0" y="60" :width="W" height="240" />
      <rect class="air" :x="W / 2 - hole.half" y="58" :width="hole.half * 2" height="192" />
      <rect
        class="water"
        :class="{ guess: !hole.known }"
        :x="W / 2 - hole.half"
        :y="hole.level"
        :width="hole.half * 2"
        :height="250 - hole.level"
      />
      <path class="line" :d="`M0 60H${W / 2 - hole.half}V250H${W / 2 + hole.half}V60H${W}`" />
      <path class="dash" :d="`M${W / 2 - hole.half} ${hole.top}H${W / 2 + hole.half}`" />
      <text :x="W / 2 + hole.half + 8" :y="hole.top + 5">{{ inches(hole.first) || t('soil.start') }}</text>
      <text :x="W / 2 + hole.half + 8" :y="Math.max(hole.level + 5, hole.top + 25)">
        {{ inches(hole.last) || t('soil.end') }}
      </text>
      <text :x="W / 2" y="278" text-anchor="middle">{{ inches(number('across_m')) }}</text>
    </template>
    <template v-else-if="kind === 'infiltration'">
      <rect class="soil" x="0" y="150" :width="W" height="150" />
      <rect
        class="water"
        x="112"
        :y="70 + fallen.px"
        width="136"
        :height="80 - fallen.px"
        :class="{ guess: fallen.f === null }"
      />
      <path class="glass" d="M110 40V200M250 40V200" />
      <path class="dash" d="M112 70H248" />
      <path class="line" :d="`M0 150H110M250 150H${W}`" />
      <path class="flow" d="M150 168V200M180 168V216M210 168V200" />
      <text x="258" :y="Math.min(140, 76 + fallen.px / 2)">{{ inches(fallen.f) || t('soil.fall') }}</text>
    </template>
    <template v-else-if="kind === 'hardpan'">
      <rect class="soil" x="0" y="60" :width="W" height="240" />
      <rect class="pan" x="0" :y="depth.y" :width="W" :height="300 - depth.y" />
      <path class="rod" :d="`M180 20V${depth.y}M164 20H196`" />
      <path class="line" :d="`M0 60H${W}`" />
      <path class="tick" :d="`M230 60V${depth.y}M222 60H238M222 ${depth.y}H238`" />
      <text x="246" :y="(60 + depth.y) / 2 + 5">{{ inches(depth.d) || t('soil.depth') }}</text>
    </template>
  </svg>
</template>

<style scoped>
.drawing {
  width: 100%;
  max-width: 440px;
  height: auto;
  font-size: var(--text-1);
}
text {
  fill: var(--ink);
}
.soil {
  fill: var(--soil);
}
.air {
  fill: var(--ground);
}
.water {
  fill: var(--water-pale);
  stroke: var(--ink);
}
.pan {
  fill: var(--bark);
}
.sand {
  fill: var(--straw);
  stroke: var(--ink);
}
.silt {
  fill: var(--soil);
  stroke: var(--ink);
}
.clay {
  fill: var(--root);
  stroke: var(--ink);
}
.guess {
  fill-opacity: 0.45;
  stroke-dasharray: 4 3;
}
.glass,
.line,
.rod {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.rod {
  stroke-width: 4;
}
.tick,
.flow {
  fill: none;
  stroke: var(--ink);
}
.dash {
  fill: none;
  stroke: var(--ink);
  stroke-dasharray: 5 4;
}
</style>
