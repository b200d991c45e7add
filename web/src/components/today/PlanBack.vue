<script setup lang="ts">
/** Signal is back: what the plan of now wants otherwise than the one that was gone by. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { pourOf } from '@/composables/useRound'
import { listed } from '@/logic/dates'
import type { Changes } from '@/offline/overlay'
import { text } from '@/units'

const props = defineProps<{ changes: Changes }>()
defineEmits<{ seen: [] }>()
const { t } = useI18n()
const lines = computed(() => {
  const { more, less, other } = props.changes
  const amount = (next: Parameters<typeof pourOf>[0]) => text('volume', pourOf(next).litres)
  return [
    more.length ? t('signal.changedMore', { tags: listed(more) }) : '',
    less.length ? t('signal.changedLess', { tags: listed(less) }) : '',
    ...other.map((one) => t('signal.changedOther', { tag: one.tag, now: amount(one.now), before: amount(one.before) })),
  ].filter(Boolean)
})
</script>

<template>
  <section class="back no-print" role="status">
    <h2>{{ t('signal.changed') }}</h2>
    <ul>
      <li v-for="line in lines" :key="line">{{ line }}</li>
    </ul>
    <button type="button" class="button" @click="$emit('seen')">{{ t('signal.seen') }}</button>
  </section>
</template>

<style scoped>
.back {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
  border: 2px solid var(--water);
  padding: var(--space-4);
  margin: var(--space-3) 0;
}
h2 {
  font-size: var(--text-3);
}
</style>
