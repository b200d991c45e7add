<script setup lang="ts">
/** The trees of a line in a table: how far from the valve, with what pressure, how long each wants it to run, what fails. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { missed } from '@/logic/drip'
import { text } from '@/units'

defineProps<{ trees: Schema['LinePageOut']['trees'] }>()
const { t } = useI18n()
</script>

<template>
  <table class="ruled">
    <thead>
      <tr>
        <th>{{ t('trees.tree') }}</th>
        <th class="num">{{ t('drip.row.fromValve') }}</th>
        <th class="num">{{ t('drip.row.head') }}</th>
        <th class="num">{{ t('drip.row.wants') }}</th>
        <th>{{ t('drip.row.state') }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="tree in trees" :key="tree.id">
        <td>
          <RouterLink :to="{ name: 'tree-drip', params: { id: tree.id } }">{{ tree.tag }}</RouterLink>
        </td>
        <td class="num">{{ text('large', tree.chainage_m, 1) }}</td>
        <td class="num">{{ text('head', tree.tee_head_m) }}</td>
        <td class="num">{{ Math.round(tree.look.run.run_min) }}{{ '\u00a0' }}{{ t('drip.min') }}</td>
        <td>
          <span v-if="tree.look.achievements.every((a) => a.passed)">{{ t('drip.allSix') }}</span>
          <span v-else class="warn">{{ t(`drip.miss.${missed(tree.look.achievements)[0]}`) }}</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
td a {
  display: inline-flex;
  min-height: var(--tap);
  align-items: center;
  font-weight: 600;
}
@media print {
  td a {
    min-height: 0;
    color: inherit;
    text-decoration: none;
  }
}
</style>
