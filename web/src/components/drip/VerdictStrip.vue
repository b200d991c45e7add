<script setup lang="ts">
/** The six things that a layout must achieve, in their order: what it does, what is wanted, whether it passes. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { monthYear } from '@/logic/dates'
import { missKey } from '@/logic/drip'
import { text } from '@/units'

const props = defineProps<{ look: Schema['DripLook'] }>()
const { t } = useI18n()
const percent = (value: number) => `${Math.round(value * 100)}\u00a0%`
function figure(a: Schema['AchievementOut']): string {
  if (a.key === 'next_move') {
    if (!props.look.move_on) return t('drip.never')
    return a.value === 0 ? t('drip.nowDue') : monthYear(props.look.move_on)
  }
  if (a.value === null) return t('drip.unknown')
  if (a.key === 'bulb') return text('small', a.value, 0)
  if (a.key === 'run_time') return `${Math.round(a.value)}\u00a0min`
  if (a.key === 'evenness') return `${Math.round(a.value)}\u00a0%`
  return percent(a.value)
}
function wanted(a: Schema['AchievementOut']): string {
  if (a.key === 'ball_share') return a.low ? t('drip.atLeast', { value: percent(a.low) }) : t('drip.noneWanted')
  if (a.key === 'wetted_fraction') return t('drip.between', { low: percent(a.low ?? 0), high: percent(a.high ?? 0) })
  if (a.key === 'bulb') return t('drip.atLeast', { value: text('small', a.low ?? 0, 0) })
  if (a.key === 'run_time') return t('drip.minutes', { low: Math.round(a.low ?? 0), high: (a.high ?? 0) / 60 })
  if (a.key === 'evenness') return t('drip.atLeast', { value: `${Math.round(a.low ?? 0)}\u00a0%` })
  return t('drip.serves')
}
</script>

<template>
  <table class="strip">
    <caption class="visually-hidden">
      {{
        t('drip.six')
      }}
    </caption>
    <tbody>
      <tr v-for="a in look.achievements" :key="a.key" :class="{ failed: !a.passed }">
        <th scope="row">{{ t(`drip.achieve.${a.key}`) }}</th>
        <td class="figure">{{ figure(a) }}</td>
        <td class="wanted">{{ wanted(a) }}</td>
        <td class="pass">
          <span v-if="a.passed">{{ t('drip.fine') }}</span>
          <span v-else class="warn">{{ t(`drip.miss.${missKey(a)}`) }}</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.strip {
  width: 100%;
  border-collapse: collapse;
}
tr {
  border-bottom: 1px solid var(--hair);
}
tr.failed {
  border-left: 4px solid var(--warning);
}
th,
td {
  text-align: left;
  padding: var(--space-2) var(--space-3) var(--space-2) 0;
  font-weight: 400;
  vertical-align: baseline;
}
tr.failed th {
  padding-left: var(--space-2);
}
.figure {
  font-size: var(--text-4);
  font-weight: 600;
  white-space: nowrap;
}
.wanted {
  color: var(--ink-2);
  font-family: var(--condensed);
  font-size: var(--text-1);
}
.pass {
  text-align: right;
  padding-right: 0;
}
@media (max-width: 767px) {
  .wanted {
    display: none;
  }
}
</style>
