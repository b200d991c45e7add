<script setup lang="ts">
/** A site's plantings to come and done, its order list and its calendar. */
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'
import { treeName } from '@/i18n'

const props = defineProps<{ siteId: string }>()
const { t } = useI18n()
const { data } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/plantings', { params: { path: { site_id: props.siteId } }, signal })),
  [() => props.siteId],
)
</script>

<template>
  <section>
    <h2 class="ruled-head apart">{{ t('planting.list.title') }}</h2>
    <p v-if="data && !data.length" class="quiet">{{ t('planting.list.none') }}</p>
    <ul>
      <li v-for="p in data ?? []" :key="p.id">
        <RouterLink class="name" :to="{ name: 'planting', params: { id: p.id } }">{{
          t('planting.list.row', { n: p.count, common: treeName(p.common).toLowerCase() }, p.count)
        }}</RouterLink>
        <span>{{ p.stop }}</span>
        <span>{{
          p.planted_on
            ? t('planting.list.done', { day: fullDay(p.planted_on) })
            : t('planting.list.on', { day: fullDay(p.planned_on) })
        }}</span>
        <span v-if="!p.planted_on">{{ t('planting.list.looked', { n: p.looked_at, all: p.count }) }}</span>
        <span v-if="p.left < p.count" class="warn">{{ t('planting.list.rejected', { n: p.count - p.left }) }}</span>
      </li>
    </ul>
    <div class="acts">
      <RouterLink class="button" :to="{ name: 'planting-new', query: { site: siteId } }">{{
        t('planting.list.plan')
      }}</RouterLink>
      <RouterLink class="button" :to="{ name: 'order', query: { site: siteId } }">{{ t('order.open') }}</RouterLink>
      <RouterLink class="button" :to="{ name: 'care', query: { site: siteId } }">{{ t('care.title') }}</RouterLink>
    </div>
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
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin-top: var(--space-3);
}
</style>
