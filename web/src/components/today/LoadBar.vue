<script setup lang="ts">
/** The day's water running down: a segment a stop, width its litres, the done part hollow. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { text } from '@/units'

const props = defineProps<{
  groups: { key: string; stop: string | null; done: number; all: number; fills: number[] }[]
  done: number
  all: number
  currentKey: string | null
}>()
const { t } = useI18n()
const segments = computed(() => props.groups.filter((g) => g.all > 0))
const fills = computed(() => segments.value.reduce((n, g) => n + g.fills.length, 0))
const words = computed(() => t('today.bar', { done: text('volume', props.done, 0), all: text('volume', props.all, 0) }))
</script>

<template>
  <div>
    <div class="bar" role="img" :aria-label="words">
      <span
        v-for="g in segments"
        :key="g.key"
        class="segment"
        :class="{ current: g.key === currentKey }"
        :style="{ flexGrow: g.all }"
      >
        <span class="left" :style="{ width: `${100 * (1 - g.done / g.all)}%` }" />
        <span v-for="at in g.fills" :key="at" class="fill" :style="{ left: `${100 * at}%` }" />
      </span>
    </div>
    <p v-if="fills" class="narrow">{{ t('today.fills', { n: fills }, fills) }}</p>
    <p class="narrow">{{ t('today.poured', { done: text('volume', done, 0), all: text('volume', all, 0) }) }}</p>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: var(--space-1);
  height: 40px;
}
.segment {
  border: 1.5px solid var(--ink);
  min-width: 6px;
  display: flex;
  justify-content: flex-end;
  flex-basis: 0;
  position: relative;
}
.left {
  background: var(--water-fill);
}
.fill {
  position: absolute;
  top: -5px;
  bottom: -5px;
  width: 3px;
  margin-left: -1.5px;
  background: var(--ink);
}
.current .left {
  background: var(--water);
}
p {
  margin-top: var(--space-1);
  color: var(--ink-2);
}
@media (max-width: 767px) {
  .bar {
    height: 24px;
  }
}
</style>
