<script setup lang="ts">
/** A planting to come in the list of all: when it is planned, the month that takes least water, the next fit day. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { fullDay, longDay, monthName } from '@/logic/dates'
import { text } from '@/units'
import { treeName } from '@/i18n'

const props = defineProps<{ row: Schema['PlantingRow'] }>()
const { t } = useI18n()
const { data, error } = useResource(
  (signal) =>
    take(api.GET('/api/plantings/{planting_id}/when', { params: { path: { planting_id: props.row.id } }, signal })),
  [() => props.row.id],
)
const planned = computed(() => data.value?.months.find((m) => m.month === data.value?.planned_month))
const best = computed(() => data.value?.months.find((m) => m.month === data.value?.best_month))
const month = computed(() => {
  if (!planned.value) return t('plantAhead.noYear')
  if (!best.value) return t('plantAhead.noMonth')
  const percent = Math.round(100 * (data.value!.saved_share ?? 0))
  const name = { month: monthName(best.value.month), percent }
  if (percent > 0) return t('plantAhead.less', name)
  return t(best.value === planned.value ? 'plantAhead.same' : 'plantAhead.even', name)
})
const water = computed(() => {
  if (!planned.value) return ''
  const now = text('volume', planned.value.litres, 0)
  return best.value && best.value !== planned.value
    ? t('plantAhead.change', { planned: now, best: text('volume', best.value.litres, 0) })
    : now
})
const day = computed(() => {
  const w = data.value!
  if (w.best_day) return longDay(w.best_day)
  return w.nearest_day ? t('plantAhead.noDay', { day: longDay(w.nearest_day) }) : ''
})
</script>

<template>
  <tr>
    <th scope="row">
      <RouterLink class="name" :to="{ name: 'planting', params: { id: row.id } }">{{
        t('planting.list.row', { n: row.left, common: treeName(row.common).toLowerCase() }, row.left)
      }}</RouterLink>
      <span class="quiet">{{ row.site_name }}, {{ row.stop }}</span>
    </th>
    <td :data-label="t('plantAhead.planned')">{{ fullDay(row.planned_on) }}</td>
    <template v-if="data && !data.problem">
      <td :data-label="t('plantAhead.month')" :class="{ strong: (data.saved_share ?? 0) > 0 }">{{ month }}</td>
      <td :data-label="t('plantAhead.water')">{{ water }}</td>
      <td :data-label="t('plantAhead.day')">{{ day }}</td>
    </template>
    <td v-else colspan="3" :class="data?.problem || error ? 'warn' : 'quiet'" role="status">
      {{ data?.problem ?? error?.detail ?? t('plantAhead.working') }}
    </td>
  </tr>
</template>

<style scoped>
th,
td {
  vertical-align: baseline;
  padding: var(--space-2) var(--space-4) var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
  text-align: left;
}
th {
  font-weight: 400;
}
.name {
  display: inline-block;
  padding: var(--space-3) 0;
  font-weight: 600;
}
th .quiet {
  display: block;
}
.strong {
  font-weight: 600;
}
@media (max-width: 767px) {
  tr {
    display: block;
    padding: var(--space-3) 0;
    border-bottom: 1px solid var(--ink);
  }
  th,
  td {
    display: block;
    border: 0;
    padding: 2px 0;
  }
  td[data-label]::before {
    content: attr(data-label) ': ';
    color: var(--ink-2);
  }
}
</style>
