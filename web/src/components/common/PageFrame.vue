<script setup lang="ts">
/** The frame of a page: its name with what belongs beside it, what always shows, then loading, error, empty or content. */
import StatePanel from '@/components/common/StatePanel.vue'
import type { Problem } from '@/api/client'
import { usePageTitle } from '@/composables/usePageTitle'

const { title = '', error = null } = defineProps<{
  title?: string
  error?: Problem | null
  loading?: boolean
  empty?: boolean
}>()
defineEmits<{ retry: [] }>()
usePageTitle(() => title)
</script>

<template>
  <div class="page">
    <header v-if="title || $slots.title">
      <slot name="title">
        <h1>{{ title }}</h1>
      </slot>
      <slot name="beside" />
    </header>
    <slot name="above" />
    <StatePanel :error="error" :loading="Boolean(loading)" :empty="Boolean(empty)" @retry="$emit('retry')">
      <template #mend><slot name="mend" /></template>
      <template #empty><slot name="empty" /></template>
      <slot />
    </StatePanel>
    <slot v-if="!loading" name="below" />
  </div>
</template>

<style>
@media print {
  .page.page {
    padding: 0;
  }
  .page.page h1 {
    font-size: 16pt;
  }
}
.page {
  padding: var(--space-6) var(--space-6) var(--space-8);
  max-width: 1240px;
}
.page > header {
  display: flex;
  align-items: baseline;
  gap: var(--space-6);
  flex-wrap: wrap;
  margin-bottom: var(--space-5);
}
.page h1 {
  font-size: var(--text-5);
}
@media (max-width: 767px) {
  .page {
    padding: var(--space-4) var(--space-4) var(--space-7);
  }
  .page > header {
    gap: var(--space-2) var(--space-4);
  }
}
</style>
