<script setup lang="ts">
/** The layout that lies there and those before it; the newest can be taken back. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'

defineProps<{ layout: Schema['LayoutOut'] | null; history: Schema['LayoutOut'][]; busy: boolean }>()
defineEmits<{ back: [] }>()
const { t } = useI18n()
const hundred = (value: number) => Math.round(value * 100)
</script>

<template>
  <ul>
    <li v-if="layout">
      {{ t('drip.liesSince', { day: fullDay(layout.laid_on), share: hundred(layout.ball_share) }) }}
      <span v-if="layout.choice.edits.length" class="quiet">{{ t('drip.byHand') }}</span>
      <button type="button" class="button plain" :disabled="busy" @click="$emit('back')">
        {{ t('drip.takeBack') }}
      </button>
    </li>
    <li v-for="h in history" :key="h.id" class="quiet" :class="{ withdrawn: h.withdrawn }">
      {{ fullDay(h.laid_on) }}: {{ t(`drip.pattern.${h.choice.pattern}`) }}, {{ text('flow', h.flow_l_per_h)
      }}{{ h.choice.edits.length ? `, ${t('drip.byHand')}` : '' }}
    </li>
    <li v-if="!layout && !history.length" class="quiet">{{ t('drip.noHistory') }}</li>
  </ul>
</template>

<style scoped>
li {
  border-bottom: 1px solid var(--hair);
  min-height: var(--tap);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-1) var(--space-3);
}
.withdrawn {
  text-decoration: line-through;
}
</style>
