<script setup lang="ts">
/** Probes that something is wrong with, said where the day begins. */
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { moment } from '@/logic/dates'

const props = defineProps<{ day: string }>()
const { t } = useI18n()
const { data } = useResource((signal) => take(api.GET('/api/probes/troubles', { signal })), [() => props.day])
</script>

<template>
  <section v-if="data?.length" class="probes" :aria-label="t('probes.title')">
    <h3>{{ t('probes.title') }}</h3>
    <p v-for="one in data" :key="one.id">
      <RouterLink :to="{ name: 'tree-checks', params: { id: one.tree_id }, hash: '#probes' }"
        >{{ one.tree_tag }}, {{ one.name }}</RouterLink
      >
      <span class="warn">{{
        one.trouble === 'silent'
          ? t('probes.silent', { since: moment(one.silent_since!, one.timezone) })
          : one.trouble === 'battery'
            ? t('probes.batteryLow')
            : t(`probes.why.${one.trouble}`)
      }}</span>
    </p>
  </section>
</template>

<style scoped>
.probes {
  margin-top: var(--space-5);
}
p {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 var(--space-3);
}
a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
</style>
