<script setup lang="ts">
/** What to bring, counted off the drawing. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { text } from '@/units'

defineProps<{ parts: Schema['DripPart'][] }>()
const { t } = useI18n()
function name(p: Schema['DripPart']): string {
  if (p.item === 'tube') return t('drip.part.tube', { bore: text('bore', p.size) })
  if (p.item === 'inline_tube')
    return t('drip.part.inline_tube', { bore: text('bore', p.size), spacing: text('small', p.spacing_m, 0) })
  if (p.item === 'emitter')
    return t(p.compensating ? 'drip.part.emitterHeld' : 'drip.part.emitter', { flow: text('flow', p.size) })
  return t(`drip.part.${p.item}`)
}
const amount = (p: Schema['DripPart']) => (p.length_m > 0 ? text('large', p.length_m, 1) : String(p.count))
</script>

<template>
  <table class="parts">
    <tbody>
      <tr v-for="(p, n) in parts" :key="n">
        <td class="count">{{ amount(p) }}</td>
        <td>{{ name(p) }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.parts {
  width: 100%;
  border-collapse: collapse;
}
tr {
  border-bottom: 1px solid var(--hair);
}
td {
  padding: var(--space-2) 0;
}
.count {
  width: 92px;
  font-weight: 600;
  font-size: var(--text-2);
  white-space: nowrap;
}
</style>
