<script setup lang="ts">
/** Through the years of a layout: now, the next, the one after. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { monthYear } from '@/logic/dates'

defineProps<{ looks: Schema['GrownOut'][]; words: string }>()
const year = defineModel<number>({ required: true })
const { t } = useI18n()
</script>

<template>
  <section class="slider">
    <label for="d-year">{{ t('drip.year') }}</label>
    <input
      id="d-year"
      v-model.number="year"
      type="range"
      min="0"
      :max="looks.length - 1"
      step="1"
      :aria-valuetext="words"
      list="d-years"
    />
    <div class="stops" aria-hidden="true">
      <button
        v-for="(l, n) in looks"
        :key="n"
        type="button"
        tabindex="-1"
        :class="{ on: n === year }"
        @click="year = n"
      >
        {{ n === 0 ? t('drip.now') : monthYear(l.look.day) }}
      </button>
    </div>
  </section>
</template>

<style scoped>
.slider {
  display: grid;
  gap: 2px;
}
.slider label {
  font-weight: 600;
}
.slider input {
  width: 100%;
  height: var(--tap);
  accent-color: var(--water);
}
.stops {
  display: flex;
  justify-content: space-between;
}
.stops button {
  border: 0;
  background: none;
  min-height: var(--tap);
  padding: 0 var(--space-1);
  cursor: pointer;
}
.stops .on {
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 5px;
  text-decoration-thickness: 3px;
}
</style>
