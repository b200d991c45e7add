<script setup lang="ts">
/** What the books say for a tree of this size and age, beside the balance's week, and why they part. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { text } from '@/units'

defineProps<{ book: Schema['Book'] }>()
const { t } = useI18n()
const span = (low: number, high: number) =>
  Math.abs(high - low) < 0.05
    ? text('volume', high, 0)
    : t('book.to', { low: text('volume', low, 0), high: text('volume', high, 0) })
const often = (low: number, high: number) =>
  high === 1 ? t('book.daily') : low === high ? t('book.every', { n: high }) : t('book.everyTo', { low, high })
</script>

<template>
  <section class="book">
    <h3>{{ t('book.title') }}</h3>
    <table>
      <thead>
        <tr>
          <th scope="col">{{ t('book.rule') }}</th>
          <th scope="col">{{ t('book.each') }}</th>
          <th scope="col">{{ t('book.often') }}</th>
          <th scope="col">{{ t('book.week') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr class="own">
          <th scope="row">{{ t('book.balance') }}</th>
          <td />
          <td />
          <td>{{ text('volume', book.weekly_l, 0) }}</td>
        </tr>
        <tr v-for="r in book.rules" :key="r.key">
          <th scope="row">{{ t(`book.${r.key}`) }}</th>
          <td>{{ span(r.litres_low, r.litres_high) }}</td>
          <td>{{ often(r.days_low, r.days_high) }}</td>
          <td>{{ span(r.weekly_low_l, r.weekly_high_l) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="!book.reasons.length">{{ t('book.agrees') }}</p>
    <ul v-else>
      <li v-for="r in book.reasons" :key="r">{{ t(`book.why.${r}`) }}</li>
    </ul>
    <p v-if="book.can_drown">{{ t('book.cantDrown') }}</p>
  </section>
</template>

<style scoped>
.book {
  margin-top: var(--space-6);
  overflow-x: auto;
}
h3 {
  font-size: var(--text-2);
  margin-bottom: var(--space-2);
}
table {
  width: 100%;
  border-collapse: collapse;
  font-family: var(--condensed);
}
th,
td {
  text-align: right;
  padding: var(--space-2) 0 var(--space-2) var(--space-3);
  border-bottom: 1px solid var(--hair);
  font-weight: 500;
}
th:first-child {
  text-align: left;
  padding-left: 0;
}
thead th {
  color: var(--ink-2);
}
.own th,
.own td {
  font-weight: 600;
}
p,
li {
  margin-top: var(--space-2);
}
</style>
