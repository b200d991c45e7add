<script setup lang="ts">
/** All plantings to come, of all sites, side by side: when each takes least water, and its next fit day. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import WhenRow from '@/components/planting/WhenRow.vue'
import { dayCount } from '@/composables/useDay'
import { useResource } from '@/composables/useResource'

const { t } = useI18n()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/plantings', { signal })), [dayCount])
const trees = computed(() => (data.value ?? []).reduce((n, row) => n + row.left, 0))
</script>

<template>
  <PageFrame :title="t('plantAhead.title')" :error="error" :loading="loading && !data" @retry="load">
    <template #title>
      <h1 class="visually-hidden">{{ t('plantAhead.title') }}</h1>
      <p v-if="data?.length" class="head">
        <span class="big">{{ data.length }}</span>
        {{ t('plantAhead.lead', { trees: t('plantAhead.trees', { n: trees }, trees) }, data.length) }}
      </p>
    </template>
    <EmptyPlace v-if="data && !data.length" :title="t('plantAhead.title')" :words="t('plantAhead.none')">
      <RouterLink class="button go" :to="{ name: 'planting-new' }">{{ t('plantAhead.plan') }}</RouterLink>
    </EmptyPlace>
    <table v-if="data?.length">
      <thead>
        <tr>
          <th scope="col">{{ t('plantAhead.batch') }}</th>
          <th scope="col">{{ t('plantAhead.planned') }}</th>
          <th scope="col">{{ t('plantAhead.month') }}</th>
          <th scope="col">{{ t('plantAhead.water') }}</th>
          <th scope="col">{{ t('plantAhead.day') }}</th>
        </tr>
      </thead>
      <tbody>
        <WhenRow v-for="row in data" :key="row.id" :row="row" />
      </tbody>
    </table>
    <RouterLink v-if="data?.length" class="button no-print" :to="{ name: 'planting-new' }">{{
      t('plantAhead.plan')
    }}</RouterLink>
  </PageFrame>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: var(--space-1) var(--space-3);
  font-size: var(--text-4);
}
.big {
  font-size: var(--text-7);
  font-weight: 600;
}
table {
  width: 100%;
  border-collapse: collapse;
  margin-bottom: var(--space-5);
}
thead th {
  text-align: left;
  vertical-align: bottom;
  padding-right: var(--space-4);
  border-bottom: 2px solid var(--ink);
}
@media (max-width: 767px) {
  thead {
    display: none;
  }
  table,
  table :deep(tbody) {
    display: block;
  }
}
</style>
