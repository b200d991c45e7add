<script setup lang="ts">
/** What readings say of a site's trees, row by row; the ones that part from their neighbors named. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { fixed } from '@/logic/numbers'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const { data } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/thirst', { params: { path: { site_id: props.id } }, signal })),
  [() => props.id],
)
const times = (m: number) => fixed(m, m < 1 ? 2 : 1)
const news = (tree: Schema['RowTree']) => tree.odd || tree.state === 'open' || tree.state === 'ask_delivery'
const told = (tree: Schema['RowTree']) =>
  tree.fit!.verdict === 'ask_delivery' && (tree.fit!.demand ?? 1) < 1 ? 'ask_wet' : tree.fit!.verdict
const rows = computed(() => (data.value ?? []).filter((row) => row.trees.length))
</script>

<template>
  <section v-if="rows.length" class="thirst">
    <h2 class="ruled-head apart">{{ t('thirst.rows') }}</h2>
    <div v-for="row in rows" :key="row.stop ?? ''" class="row">
      <h3>{{ t('thirst.rowUsual', { stop: row.stop ?? t('today.noStop'), m: times(row.usual ?? 1) }) }}</h3>
      <ul>
        <li v-for="tree in row.trees" :key="tree.id" :class="{ news: news(tree) }">
          <RouterLink :to="{ name: 'tree-checks', params: { id: tree.id } }">{{ tree.tag }}</RouterLink>
          {{ tree.place }}: {{ t(`thirst.verdict.${told(tree)}`, { m: times(tree.fit!.demand ?? 1) }) }}
          <strong v-if="tree.odd" class="warn">{{ t('thirst.odd') }}</strong>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
h3 {
  font-size: var(--text-2);
  margin-top: var(--space-3);
}
li {
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
li a {
  display: inline-flex;
  align-items: center;
  min-height: var(--tap);
  margin-right: var(--space-2);
  font-weight: 600;
}
</style>
