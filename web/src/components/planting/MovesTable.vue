<script setup lang="ts">
/** What is dug, goes back, is brought and is left over: each tree and the batch, in what is carried. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { useCarried } from '@/composables/useCarried'
import { text } from '@/units'

const props = defineProps<{ figures: Schema['PlantingFiguresOut'] }>()
const { t } = useI18n()
const { carrier } = useCarried()
const rows = computed(() => {
  const { hole, mix, totals, first } = props.figures
  const all = [
    { key: 'soil', each: text('bulk', hole.hole_l), all: text('bulk', totals.hole_l, 0) },
    { key: 'back', each: text('bulk', mix.soil_l), all: text('bulk', totals.soil_l, 0) },
    { key: 'compost', each: text('bulk', mix.compost_l), all: text('bulk', totals.compost_l, 0), skip: !mix.compost_l },
    { key: 'coir', each: text('bulk', mix.coir_l), all: text('bulk', totals.coir_l, 0), skip: !mix.coir_l },
    { key: 'sand', each: text('bulk', mix.sand_l), all: text('bulk', totals.sand_l, 0), skip: !mix.sand_l },
    {
      key: 'spoil',
      each: text('bulk', totals.spoil_loose_l / totals.trees),
      all: `${text('bulk', totals.spoil_loose_l, 0)}, ${carrier('barrow_85_l', totals.spoil_carried.barrow_85_l ?? 0)}`,
      skip: !totals.spoil_loose_l,
    },
    {
      key: 'first',
      each: text('volume', first.litres),
      all: text('volume', totals.first_water_l, 0),
      skip: !first.litres,
    },
  ]
  return all.filter((r) => !r.skip)
})
</script>

<template>
  <table>
    <thead>
      <tr>
        <th scope="col">{{ t('planting.moves') }}</th>
        <th scope="col">{{ t('planting.each') }}</th>
        <th v-if="figures.totals.trees > 1" scope="col">{{ t('planting.all', { n: figures.totals.trees }) }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.key">
        <th scope="row">{{ t(`planting.${r.key}`) }}</th>
        <td>{{ r.each }}</td>
        <td v-if="figures.totals.trees > 1">{{ r.all }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 500;
}
thead th {
  font-family: var(--condensed);
  font-weight: 600;
  border-bottom: 2px solid var(--ink);
}
th:not(:first-child),
td {
  text-align: right;
  padding-left: var(--space-3);
}
td {
  font-weight: 600;
}
tbody tr {
  border-bottom: 1px solid var(--hair);
}
tbody th,
td {
  padding-top: var(--space-1);
  padding-bottom: var(--space-1);
}
</style>
