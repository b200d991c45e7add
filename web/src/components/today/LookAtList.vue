<script setup lang="ts">
/** Trees that the plan asks to be looked at today: where it may be wrong and that would cost something. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'

const props = defineProps<{ sites: Schema['RoundSite'][]; minutes: number }>()
const { t } = useI18n()
/** Of all sites the riskiest, as many as the minutes allow. */
const trees = computed(() => {
  let left = props.minutes
  return props.sites
    .flatMap((s) => s.look_at)
    .sort((a, b) => b.risk - a.risk)
    .filter((x) => (left -= x.minutes) >= 0)
})
const takes = computed(() => trees.value.reduce((n, x) => n + x.minutes, 0))
</script>

<template>
  <section v-if="trees.length" class="look no-print">
    <h3>
      <span>{{ t('lookAt.title') }}</span>
      <span class="quiet">{{ t('lookAt.minutes', { n: takes }) }}</span>
    </h3>
    <ul>
      <li v-for="x in trees" :key="x.id">
        <span class="which"
          ><strong>{{ x.tag }}</strong> {{ x.place }}
          <span class="quiet why">{{ t(`lookAt.why.${x.why}`, { n: x.days }) }}</span></span
        >
        <RouterLink
          class="button"
          :to="{ name: 'tree-checks', params: { id: x.id } }"
          :aria-label="`${t('lookAt.check')} ${x.tag}`"
          >{{ t('lookAt.check') }}</RouterLink
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.look {
  margin-top: var(--space-6);
}
h3 {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  font-size: var(--text-2);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
}
h3 .quiet {
  font-weight: 500;
  font-size: var(--text-1);
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-3);
  min-height: 72px;
  border-bottom: 1px solid var(--hair);
}
.why {
  display: block;
}
.button {
  flex: none;
  min-height: 56px;
  min-width: 96px;
  justify-content: center;
}
</style>
