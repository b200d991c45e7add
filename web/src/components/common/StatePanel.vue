<script setup lang="ts">
/** The four states of a view, in this order: error with retry, loading, empty, content. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { placeOf } from '@/logic/places'
import type { Problem } from '@/api/client'

defineProps<{ error: Problem | null; loading: boolean; empty?: boolean }>()
defineEmits<{ retry: [] }>()
const { t } = useI18n()
const route = useRoute()
const router = useRouter()
/** The place that what is missing would have stood in. */
const home = computed(() => placeOf(route.path) ?? 'today')
</script>

<template>
  <div v-if="error" class="panel" role="alert">
    <template v-if="error.code === 'not_found'">
      <h2>{{ t('error.missing') }}</h2>
      <p>{{ t('error.missingWords') }}</p>
      <p class="ways">
        <RouterLink class="button" :to="{ name: home }">{{
          t('error.backTo', { place: t(`nav.${home}`) })
        }}</RouterLink>
        <button type="button" class="button" @click="router.back()">{{ t('common.back') }}</button>
      </p>
    </template>
    <template v-else>
      <h2>{{ t('error.title') }}</h2>
      <p>{{ error.detail === 'offline' ? t('common.noConnection') : error.detail }}</p>
      <slot name="mend" />
      <button type="button" class="button" @click="$emit('retry')">{{ t('common.retry') }}</button>
    </template>
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
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
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
