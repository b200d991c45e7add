<script setup lang="ts">
/** What a layout asks for and when; done by accepting the layout that it makes. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { useDripTask } from '@/composables/useDripTask'
import { monthYear } from '@/logic/dates'

const props = defineProps<{ tasks: Schema['DripTask'][]; today: string; laid: boolean; busy: boolean }>()
defineEmits<{ done: [task: Schema['DripTask']] }>()
const { t } = useI18n()
const { task } = useDripTask()
const when = (one: Schema['DripTask']) => (one.day <= props.today ? t('drip.now') : monthYear(one.day))
</script>

<template>
  <p v-if="!tasks.length" class="quiet">{{ t('drip.noTasks') }}</p>
  <ul class="tasks">
    <li v-for="(one, n) in tasks" :key="n">
      <span class="when">{{ when(one) }}</span>
      <span>{{ task(one) }}</span>
      <button
        v-if="laid && !one.numbers.length"
        type="button"
        class="button plain no-print"
        :disabled="busy"
        @click="$emit('done', one)"
      >
        {{ t('drip.done') }}
      </button>
    </li>
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
.when {
  font-weight: 600;
  min-width: 92px;
}
li span:nth-child(2) {
  flex: 1 1 220px;
}
</style>
