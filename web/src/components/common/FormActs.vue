<script setup lang="ts">
/** The foot of a form: save, go back, and what was refused. */
import { useI18n } from 'vue-i18n'

defineProps<{ busy: boolean; refused: string; other: [string, string][] }>()
defineEmits<{ cancel: [] }>()
const { t } = useI18n()
</script>

<template>
  <div class="acts">
    <button class="button main" :disabled="busy">{{ t('common.save') }}</button>
    <button type="button" class="button" @click="$emit('cancel')">{{ t('common.cancel') }}</button>
    <div v-if="refused" role="alert">
      <p class="warn">{{ refused }}</p>
      <p v-for="[name, words] in other" :key="name" class="warn">
        {{ words.charAt(0).toUpperCase() + words.slice(1) }}
      </p>
    </div>
  </div>
</template>
