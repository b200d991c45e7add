<script setup lang="ts">
/** The four states of a view, in this order: error with retry, loading, empty, content. */
import { useI18n } from 'vue-i18n'
import type { Problem } from '@/api/client'

defineProps<{ error: Problem | null; loading: boolean; empty?: boolean }>()
defineEmits<{ retry: [] }>()
const { t } = useI18n()
</script>

<template>
  <div v-if="error" class="panel" role="alert">
    <h2>{{ t('error.title') }}</h2>
    <p>{{ error.detail === 'offline' ? t('common.noConnection') : error.detail }}</p>
    <slot name="mend" />
    <button type="button" class="button" @click="$emit('retry')">{{ t('common.retry') }}</button>
  </div>
  <div v-else-if="loading" class="panel loading" role="status">
    <span class="drip" aria-hidden="true" />{{ t('common.loading') }}
  </div>
  <slot v-else-if="empty" name="empty" />
  <slot v-else />
</template>

<style scoped>
.panel {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
  padding: var(--space-7) 0;
  max-width: 560px;
}
.loading {
  grid-auto-flow: column;
  justify-content: start;
  align-items: center;
  color: var(--ink-2);
}
.drip {
  width: 10px;
  height: 10px;
  border: 2px solid var(--water);
  border-radius: 0 50% 50% 50%;
  transform: rotate(45deg);
}
</style>
