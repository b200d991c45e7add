<script setup lang="ts">
/** What it is felt with. */
import { useI18n } from 'vue-i18n'
import { HANDS, type How } from '@/composables/useFeeling'

/** probe: whether one may be chosen. */
defineProps<{ probe?: boolean }>()
const how = defineModel<How>({ required: true })
const { t } = useI18n()
</script>

<template>
  <div class="field">
    <label for="feel-how">{{ t('feel.with') }}</label>
    <select id="feel-how" v-model="how">
      <option v-for="h in HANDS.filter((one) => probe || one !== 'probe')" :key="h" :value="h">
        {{ t(`feel.hand.${h}`) }}
      </option>
    </select>
  </div>
</template>
