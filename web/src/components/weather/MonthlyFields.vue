<script setup lang="ts">
/** Twelve monthly figures, each under its bar: mean reference evapotranspiration of a day [mm]. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { monthShort } from '@/logic/dates'
import { parse } from '@/units'

const months = defineModel<(number | null)[]>({ required: true })
const invalid = defineModel<boolean>('invalid')
defineProps<{ errors: Record<number, string> }>()
const { t } = useI18n()
const broken = new Set<number>()
const most = computed(() => Math.max(6, ...months.value.map((v) => v ?? 0)))
const share = (value: number | null) => `${Math.max(0, (100 * (value ?? 0)) / most.value)}%`
function set(at: number, value: number | null) {
  months.value = months.value.map((old, i) => (i === at ? value : old))
}
function mark(at: number, bad: boolean | undefined) {
  if (bad) broken.add(at)
  else broken.delete(at)
  invalid.value = broken.size > 0
}
/** A row of twelve figures from a table goes in at once. */
function paste(event: ClipboardEvent) {
  const words = (event.clipboardData?.getData('text') ?? '').trim().split(/[\s;]+/)
  const read = words.map((word) => parse('rain', word))
  if (words.length !== 12 || read.some((v) => v === null)) return
  event.preventDefault()
  months.value = read
}
</script>

<template>
  <div class="months" role="group" aria-labelledby="months-title" @paste="paste">
    <h2 id="months-title">{{ t('weather.monthly') }}</h2>
    <p class="quiet">{{ t('weather.monthlyWords') }}</p>
    <ol>
      <li v-for="(value, at) in months" :key="at">
        <span class="bar" aria-hidden="true"><span :style="{ height: share(value) }" /></span>
        <QuantityInput
          :id="`w-month-${at}`"
          :model-value="value"
          dimension="rain"
          :label="monthShort(at)"
          :error="errors[at]"
          @update:model-value="(v) => set(at, v)"
          @update:invalid="(bad) => mark(at, bad)"
        />
      </li>
    </ol>
  </div>
</template>

<style scoped>
.months {
  grid-column: 1 / -1;
  display: grid;
  gap: var(--space-3);
  margin-top: var(--space-4);
}
h2 {
  font-size: var(--text-2);
}
ol {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: var(--space-4) var(--space-3);
  list-style: none;
  padding: 0;
}
@media (max-width: 767px) {
  ol {
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
}
.bar {
  display: flex;
  align-items: end;
  height: 72px;
  border-bottom: 2px solid var(--ink);
}
.bar span {
  width: 100%;
  background: var(--water);
  opacity: 0.55;
}
</style>
