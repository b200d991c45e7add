<script setup lang="ts">
/** One running clock: the time of day to shut off, which tree, and what comes after. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { clockTime } from '@/logic/dates'
import type { Clock, Phase } from '@/logic/clocks'

const props = defineProps<{ clock: Clock; phase: Phase; zone: string; now: number; large?: boolean }>()
defineEmits<{ pick: [] }>()
const { t } = useI18n()
const at = (ms: number) => clockTime(new Date(ms).toISOString(), props.zone)
const left = computed(() => {
  const seconds = Math.max(0, Math.round((props.phase.endsAt - props.now) / 1000))
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
})
const goes = computed(() => props.clock.goes.count)
</script>

<template>
  <component :is="large ? 'div' : 'button'" class="clock" :class="[phase.kind, { large }]" @click="$emit('pick')">
    <span v-if="phase.kind === 'running'" class="off">{{ t('today.off', { time: at(phase.endsAt) }) }}</span>
    <span v-else-if="phase.kind === 'resting'" class="off">{{ t('today.onAgain', { time: at(phase.endsAt) }) }}</span>
    <span v-else class="off warn">{{ t('today.shutNow') }}</span>
    <span class="which">
      <strong v-if="!large">{{ clock.tag }}</strong>
      <span v-if="goes > 1">{{ t('today.go', { go: phase.go, of: goes }) }}</span>
      <span v-if="phase.kind !== 'over'" class="left">{{ left }}</span>
      <span v-else>{{ t('today.wasOff', { time: at(phase.offAt) }) }}</span>
    </span>
  </component>
</template>

<style scoped>
.clock {
  display: flex;
  gap: var(--space-4);
  align-items: baseline;
  justify-content: space-between;
  width: 100%;
  min-height: 56px;
  padding: var(--space-2) 0;
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--hair);
  text-align: left;
  font: inherit;
  color: inherit;
  flex-wrap: wrap;
}
button.clock {
  cursor: pointer;
}
.off {
  font-size: var(--text-5);
  font-weight: 600;
}
.large .off {
  font-size: var(--text-7);
  line-height: 1;
}
.large {
  border: 0;
}
.resting .off {
  color: var(--ink-2);
}
.which {
  display: flex;
  gap: var(--space-3);
  align-items: baseline;
}
.which strong {
  font-size: var(--text-3);
}
</style>
