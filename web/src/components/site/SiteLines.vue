<script setup lang="ts">
/** The lines of a site: how many trees hang on each, what flows, what is wrong; each opens. */
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { text } from '@/units'

const props = defineProps<{ siteId: string }>()
const { t, te } = useI18n()
const { data } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/lines', { params: { path: { site_id: props.siteId } }, signal })),
  [() => props.siteId],
)
const { data: closed } = useResource(
  (signal) =>
    take(
      api.GET('/api/sites/{site_id}/lines', {
        params: { path: { site_id: props.siteId }, query: { closed: true } },
        signal,
      }),
    ),
  [() => props.siteId],
)
</script>

<template>
  <section v-if="data?.length || closed?.length">
    <h2 class="ruled-head apart">{{ t('sites.lines') }}</h2>
    <p class="quiet">{{ t('sites.linesWords') }}</p>
    <ul>
      <li v-for="l in data" :key="l.id">
        <RouterLink class="name" :to="{ name: 'line', params: { id: l.id } }">{{ l.name }}</RouterLink>
        <span>{{ t('sites.lineSays', { n: l.trees, laid: l.laid }, l.trees) }}</span>
        <span v-if="l.flow_l_per_h !== null" class="flow">{{ text('flow', l.flow_l_per_h, 0) }}</span>
        <span v-for="c in l.codes" :key="c" class="warn">{{
          te(`drip.finding.${c}`) ? t(`drip.finding.${c}`) : c
        }}</span>
        <span v-if="l.problem" class="warn">{{ l.problem }}</span>
      </li>
    </ul>
    <p v-if="closed?.length" class="quiet closed">
      {{ t('sites.closedLines') }}
      <RouterLink v-for="l in closed" :key="l.id" :to="{ name: 'line', params: { id: l.id } }">{{ l.name }}</RouterLink>
    </p>
    <a v-if="data?.length" class="file" :href="`/api/sites/${siteId}/drip.csv`">{{ t('sites.allParts') }}</a>
  </section>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px var(--space-5);
  align-items: center;
  border-bottom: 1px solid var(--hair);
  min-height: 52px;
}
.name {
  font-weight: 600;
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
  min-width: 200px;
}
.closed {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-3);
}
.closed a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
.flow {
  font-weight: 600;
}
.file {
  display: inline-flex;
  min-height: var(--tap);
  align-items: center;
}
</style>
