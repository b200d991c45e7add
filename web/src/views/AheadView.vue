<script setup lang="ts">
/** What is ahead: the dated work, and what must be loaded for it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'
import PageTabs from '@/components/common/PageTabs.vue'

const { t } = useI18n()
const route = useRoute()
const query = computed(() => (route.query.site ? { site: route.query.site } : {}))
const pages = computed(() =>
  (
    [
      ['fortnight', 'water'],
      ['care', 'care'],
      ['order', 'order'],
      ['plant-ahead', 'plant'],
      ['drought', 'drought'],
      ['savings', 'savings'],
    ] as const
  ).map(([name, page]) => ({
    key: name,
    words: t(`ahead.page.${page}`),
    to: { name, query: query.value },
  })),
)
</script>

<template>
  <div>
    <PageTabs class="ahead" :label="t('nav.ahead')" :pages="pages" />
    <RouterView />
  </div>
</template>

<style scoped>
.ahead {
  padding: var(--space-3) var(--space-6) 0;
}
@media (max-width: 767px) {
  .ahead {
    padding: var(--space-2) var(--space-4) 0;
  }
}
</style>
