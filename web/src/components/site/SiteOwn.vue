<script setup lang="ts">
/** Trees of a site that are far enough to be handed over, and what is still to be proven of each. */
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { listed } from '@/logic/dates'
import { treeName } from '@/i18n'

const props = defineProps<{ siteId: string }>()
const { t } = useI18n()
const { data } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/own', { params: { path: { site_id: props.siteId } }, signal })),
  [() => props.siteId],
)
const missing = (names: string[]) =>
  names.length
    ? t('own.missing', { what: listed(names.map((n) => t(`own.proof.${n}`).toLowerCase())) })
    : t('own.nothingMissing')
</script>

<template>
  <section v-if="data?.length" class="ready">
    <h2>{{ t('own.readyAt') }}</h2>
    <p class="quiet">{{ t('own.readyWords') }}</p>
    <ul>
      <li v-for="tree in data" :key="tree.id">
        <RouterLink :to="{ name: 'tree-checks', params: { id: tree.id } }">{{ tree.tag }}</RouterLink>
        <span>{{ treeName(tree.common) }}, {{ t('own.share', { share: Math.round(100 * tree.establishment) }) }}</span>
        <span class="quiet">{{ missing(tree.missing) }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  margin-top: var(--space-6);
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-4);
  align-items: baseline;
  min-height: var(--tap);
  border-bottom: 1px solid var(--hair);
  padding: var(--space-2) 0;
}
</style>
