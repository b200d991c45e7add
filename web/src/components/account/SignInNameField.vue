<script setup lang="ts">
/** The name that somebody signs in with: never capitalized, corrected or spelled by the phone. */
import { useI18n } from 'vue-i18n'
import type { Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'

const {
  id,
  hint = '',
  error = undefined,
  autocomplete = 'username',
} = defineProps<{
  id: string
  hint?: string
  error?: Wrong
  autocomplete?: string
}>()
const name = defineModel<string>({ required: true })
const { t } = useI18n()
</script>

<template>
  <FormField :id="id" :label="t('account.signInName')" :hint="hint" :error="error">
    <input
      :id="id"
      v-model="name"
      class="plain-input"
      maxlength="80"
      :autocomplete="autocomplete"
      autocapitalize="none"
      spellcheck="false"
    />
  </FormField>
</template>
