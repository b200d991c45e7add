<script setup lang="ts">
/** The sum behind a figure: each line with its formula, inputs, result in both unit systems, and source. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { longDay } from '@/logic/dates'
import { isUs, text, type Dimension } from '@/units'
import { figure, fixed } from '@/logic/numbers'

defineProps<{ lines: Schema['WorkingLine'][]; of?: string | null }>()
const { t } = useI18n()

/** Units of which there is only one, as people write them. */
const WRITTEN: Record<string, string> = { 'MJ/m2': 'MJ/m²', deg: '°', 'kPa/degC': 'kPa/°C', m2: 'm²' }
const DIMENSIONS: Record<string, Dimension> = {
  L: 'volume',
  m: 'large',
  mm: 'rain',
  'L/h': 'flow',
  'mm/h': 'pace',
  m2: 'area',
  degC: 'temperature',
}

const SHARES = new Set([
  'dryness',
  'drip_share',
  'drip_fraction',
  'uptake_share',
  'near_share',
  'reach',
  'phi',
  'established',
  'ball_share',
  'ring_share',
  'leaching',
])

function one(value: number, unit: string, key = ''): string {
  if (unit === 'yes') return t(value ? 'common.yes' : 'common.no')
  if (SHARES.has(key)) return `${Math.round(value * 100)}\u00a0%`
  if (unit === 'min') return `${value < 10 ? fixed(value, 1) : figure(value)}\u00a0min`
  const dimension = DIMENSIONS[unit]
  if (!dimension) return `${figure(Number(value.toPrecision(3)), 6)}${unit ? `\u00a0${WRITTEN[unit] ?? unit}` : ''}`
  const digits = unit === 'm' || unit === 'mm' || unit === 'L' ? 2 : unit === 'degC' ? 1 : undefined
  return text(dimension, value, digits, 'metric')
}
/** A comma is between numbers only where none is in them. */
const between = computed(() => (fixed(0.5, 1).includes(',') ? '; ' : ', '))
/** The formula is in SI; who thinks in gallons sees them beside it. */
function given(value: number, unit: string): string {
  if (value > 1e8) return '∞'
  const dimension = DIMENSIONS[unit]
  const metric = one(value, unit)
  return isUs.value && dimension ? `${metric} (${text(dimension, value, 2, 'us')})` : metric
}
function both(value: number, unit: string, key: string): string {
  const metric = one(value, unit, key)
  const dimension = DIMENSIONS[unit]
  return dimension ? `${metric} = ${text(dimension, value, 2, 'us')}` : metric
}
</script>

<template>
  <ol class="lines">
    <li v-for="l in lines" :key="l.key">
      <div class="what">
        <span
          >{{ t(`working.${l.key}`)
          }}<span v-if="l.day && l.day !== (of ?? lines[0]?.day)" class="quiet"> {{ longDay(l.day) }}</span></span
        >
        <strong>{{ both(l.value, l.unit, l.key) }}</strong>
      </div>
      <div class="how narrow">
        <span class="formula">{{ l.formula }}</span>
        <span v-if="l.inputs.length">
          {{ t('treePage.input') }}
          <template v-for="(i, n) in l.inputs" :key="i.symbol"
            >{{ n ? between : '' }}{{ i.symbol }} = {{ given(i.value, i.unit) }}</template
          >
        </span>
        <span class="source">{{ l.source }}</span>
      </div>
    </li>
  </ol>
</template>

<style scoped>
.lines li {
  border-bottom: 1px solid var(--hair);
  padding: var(--space-2) 0;
}
.what {
  display: flex;
  justify-content: space-between;
  gap: var(--space-4);
}
.what strong {
  font-weight: 600;
  text-align: right;
}
.how {
  display: flex;
  flex-wrap: wrap;
  gap: 2px var(--space-4);
  color: var(--ink-2);
}
.formula {
  color: var(--ink);
}
.source {
  margin-left: auto;
}
</style>
