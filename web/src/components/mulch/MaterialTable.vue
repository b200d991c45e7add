<script setup lang="ts">
/** Materials with what speaks for and against them, how they settle and waste; those that are never laid, too. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'

defineProps<{ materials: Schema['SuitsOut'][]; chosen: string }>()
const { t, te } = useI18n()
function pace(m: Schema['SuitsOut']): string {
  if (m.settling === null) return ''
  const months = Math.round(m.half_life_months ?? 0)
  return [
    m.settling > 0 ? t('mulch.settles', { share: `${Math.round(100 * m.settling)}\u00a0%` }) : '',
    m.half_life_months ? t('mulch.halves', { half: t('mulch.months', { n: months }, months) }) : t('mulch.keeps'),
  ]
    .filter(Boolean)
    .join(', ')
}
const name = (key: string) => (te(`material.${key}`) ? t(`material.${key}`) : t(`mulch.avoidNames.${key}`))
</script>

<template>
  <table>
    <tbody>
      <tr v-for="m in materials" :key="m.name" :class="{ chosen: m.name === chosen }">
        <th scope="row">{{ name(m.name) }}</th>
        <td :class="{ warn: m.verdict === 'avoid' }">{{ t(`mulch.suits.${m.verdict}`) }}</td>
        <td>{{ m.reasons.map((r) => t(`mulch.why.${r}`)).join(', ') }}</td>
        <td class="narrow">{{ pace(m) }}</td>
      </tr>
    </tbody>
  </table>
  <p class="quiet">{{ t('mulch.burns') }}</p>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}
tr {
  border-bottom: 1px solid var(--hair);
}
th,
td {
  text-align: left;
  padding: var(--space-1) var(--space-3) var(--space-1) 0;
  font-weight: 500;
  vertical-align: top;
}
td {
  font-weight: 400;
}
.chosen th {
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 4px;
}
p {
  margin-top: var(--space-2);
}
</style>
