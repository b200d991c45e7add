<script setup lang="ts">
/** The book: its entries, what they add up to, and a month of it for the client. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'
import PageTabs from '@/components/common/PageTabs.vue'

const { t } = useI18n()
const route = useRoute()
const kept = computed(() => {
  const { site, from, to, who, q } = route.query
  return { site, from, to, who, q }
})
const pages = computed(() => [
  { key: 'entries', words: t('bookPage.page.entries'), to: { name: 'book', query: kept.value } },
  { key: 'numbers', words: t('bookPage.page.numbers'), to: { name: 'book-numbers', query: kept.value } },
  { key: 'sheet', words: t('bookPage.page.sheet'), to: { name: 'book-sheet', query: { site: kept.value.site } } },
  { key: 'month', words: t('bookPage.page.month'), to: { name: 'book-month', query: { site: kept.value.site } } },
])
</script>

<template>
  <div>
    <PageTabs class="book" :label="t('nav.book')" :pages="pages" />
    <RouterView />
  </div>
</template>

<style scoped>
.book {
  padding: var(--space-3) var(--space-6) 0;
}
@media (max-width: 767px) {
  .book {
    padding: var(--space-2) var(--space-4) 0;
  }
}
</style>
