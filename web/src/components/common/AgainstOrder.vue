<script setup lang="ts">
/** Orders that a watering went against, with the rule, and the order's own words a tap away. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { listed } from '@/logic/dates'

defineProps<{ against: Schema['AgainstOut'][] }>()
const { t } = useI18n()
</script>

<template>
  <details v-for="a in against" :key="a.order" class="against">
    <summary class="warn">
      {{ t('drought.against', { order: a.order, rules: listed(a.rules.map((r) => t(`drought.of.${r}`))) }) }}
    </summary>
    <p>{{ a.words || t('drought.decides') }}</p>
  </details>
</template>

<style scoped>
.against {
  max-width: 60ch;
}
summary {
  cursor: pointer;
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
</style>
