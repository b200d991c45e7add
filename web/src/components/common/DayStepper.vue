<script setup lang="ts">
/** The demo's pinned day, and one day on. Absent where the clock is the real one. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { useClock } from '@/composables/useClock'
import { longDay } from '@/logic/dates'
import { bumpDay } from '@/composables/useDay'

const { t } = useI18n()
const { clock, nextDay } = useClock()
const busy = ref(false)

async function step() {
  busy.value = true
  try {
    await nextDay()
    bumpDay()
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div v-if="clock?.pinned" class="day">
    <span>{{ t('demo.note') }}</span>
    <strong>{{ longDay(clock.day) }}</strong>
    <button type="button" :disabled="busy" @click="step">{{ busy ? t('demo.stepping') : t('demo.next') }}</button>
  </div>
</template>

<style scoped>
.day {
  display: grid;
  gap: var(--space-1);
  padding: 0 var(--space-2);
  text-align: center;
  color: var(--rail-ink);
  font-family: var(--condensed);
  font-size: var(--text-1);
  line-height: 1.15;
}
.day strong {
  color: var(--on-dark);
  font-weight: 600;
}
button {
  min-height: var(--tap);
  border: 1px solid var(--rail-edge);
  background: transparent;
  color: var(--on-dark);
  cursor: pointer;
  border-radius: 2px;
}
</style>
