<script setup lang="ts">
/** Every pattern at its best for this tree: what it takes, what it misses; one tap tries it. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { missed } from '@/logic/drip'
import { text } from '@/units'

defineProps<{ suggestions: Schema['SuggestionOut'][] }>()
defineEmits<{ try: [choice: Schema['ChoiceOut']] }>()
const { t } = useI18n()
const rate = (s: Schema['SuggestionOut']) =>
  s.failed.length
    ? missed(s.achievements)
        .map((key) => t(`drip.miss.${key}`))
        .join(', ')
    : t('drip.allSix')
</script>

<template>
  <table class="ruled">
    <tbody>
      <tr v-for="s in suggestions" :key="s.choice.pattern">
        <td>
          {{ t(`drip.pattern.${s.choice.pattern}`)
          }}<span class="quiet">
            {{
              t('drip.takes', {
                n: s.emitters,
                flow: text('flow', s.choice.flow_l_per_h),
                tube: text('large', s.tube_m, 1),
              })
            }}</span
          >
        </td>
        <td :class="{ warn: s.failed.length }">{{ rate(s) }}</td>
        <td>
          <button type="button" class="button plain" @click="$emit('try', s.choice)">{{ t('drip.try') }}</button>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
td .button {
  white-space: nowrap;
}
td .quiet {
  display: block;
  font-family: var(--condensed);
}
</style>
