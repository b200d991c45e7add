<script setup lang="ts">
/** The evening: which trees were not reached or passed over, and what it costs them. */
import { useI18n } from 'vue-i18n'
import type { Row } from '@/composables/useRound'

defineProps<{ rows: Row[] }>()
const { t } = useI18n()
const percent = (share: number) => Math.round(100 * share)
</script>

<template>
  <ul class="evening">
    <li v-for="{ tree } in rows" :key="tree.id">
      <RouterLink :to="{ name: 'tree-water', params: { id: tree.id } }"
        ><strong>{{ tree.tag }}</strong></RouterLink
      >
      <span>{{ tree.place }}</span>
      <span v-if="tree.without_dryness !== null" class="cost">{{
        tree.without_ks !== null && tree.without_ks < 0.995
          ? t('today.costs', { share: percent(1 - tree.without_ks), dry: percent(tree.without_dryness ?? 0) })
          : t('today.costsDry', { dry: percent(tree.without_dryness ?? 0) })
      }}</span>
    </li>
  </ul>
</template>

<style scoped>
.evening li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-3);
  align-items: baseline;
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
}
.cost {
  flex-basis: 100%;
  color: var(--ink-2);
}
</style>
