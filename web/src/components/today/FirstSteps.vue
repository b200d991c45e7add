<script setup lang="ts">
/** The empty program: four steps from nothing to a first plan, the next one ready to press. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import StatePanel from '@/components/common/StatePanel.vue'
import { useResource } from '@/composables/useResource'

const { t } = useI18n()
const { data, error, loading, load } = useResource(async (signal) => {
  const [stations, sites] = await Promise.all([
    take(api.GET('/api/stations', { signal })),
    take(api.GET('/api/sites', { signal })),
  ])
  return { stations, sites }
})
const steps = computed(() => {
  const stations = data.value?.stations ?? []
  const weather = stations.some((s) => s.days > 0 || s.forecast_fetched_at || s.monthly_eto_mm)
  return [
    { key: 'station', done: stations.length > 0, to: { name: 'station-new' } },
    { key: 'weather', done: weather, to: { name: 'weather' } },
    { key: 'site', done: (data.value?.sites ?? []).length > 0, to: { name: 'site-new' } },
    { key: 'tree', done: false, to: { name: 'tree-new' } },
  ]
})
const next = computed(() => steps.value.find((s) => !s.done)!.key)
</script>

<template>
  <section class="first">
    <h2>{{ t('first.title') }}</h2>
    <p>{{ t('first.words') }}</p>
    <StatePanel :error="error" :loading="loading && !data" @retry="load">
      <ol>
        <li v-for="(s, n) in steps" :key="s.key" :class="{ done: s.done, next: s.key === next }">
          <span class="number" aria-hidden="true">{{ s.done ? '✓' : n + 1 }}</span>
          <div>
            <h3>{{ t(`first.${s.key}.title`) }}</h3>
            <p>{{ t(s.done ? `first.${s.key}.done` : `first.${s.key}.words`) }}</p>
            <RouterLink v-if="s.key === next" class="button main" :to="s.to">{{ t(`first.${s.key}.act`) }}</RouterLink>
            <RouterLink v-else-if="s.done" :to="s.to">{{ t(`first.${s.key}.more`) }}</RouterLink>
          </div>
        </li>
      </ol>
    </StatePanel>
  </section>
</template>

<style scoped>
.first {
  max-width: 640px;
  display: grid;
  gap: var(--space-3);
}
h2 {
  font-size: var(--text-6);
  line-height: 1.1;
}
li {
  display: grid;
  grid-template-columns: 48px 1fr;
  gap: var(--space-3);
  padding: var(--space-4) 0;
  border-bottom: 1px solid var(--hair);
}
li:first-child {
  border-top: 2px solid var(--ink);
}
.number {
  font-size: var(--text-5);
  font-weight: 600;
  line-height: 1;
}
li:not(.next) {
  color: var(--ink-2);
}
li .button {
  margin-top: var(--space-3);
}
h3 {
  font-size: var(--text-3);
}
</style>
