<script setup lang="ts">
/** The schools that practitioners hold, each with its reason and how it fits this ground; one is chosen, and why. */
import { useI18n } from 'vue-i18n'

interface School {
  school: string
  fit: string
  because: string
  chosen: boolean
  barred?: boolean
}
defineProps<{
  name: string
  title: string
  words: 'depth' | 'fill'
  schools: readonly School[]
  extra?: (s: string) => string
}>()
const model = defineModel<string>({ required: true })
const { t } = useI18n()
</script>

<template>
  <fieldset>
    <legend>{{ title }}</legend>
    <label v-for="s in schools" :key="s.school" :class="{ picked: model === s.school, off: s.barred }">
      <input v-model="model" type="radio" :name="name" :value="s.school" :disabled="s.barred" />
      <span class="what">
        <strong>{{ t(`planting.${words}.${s.school}.name`) }}</strong>
        <span v-if="extra?.(s.school)" class="narrow">{{ extra(s.school) }}</span>
        <span v-if="s.chosen" class="narrow">{{ t('planting.chosen') }}</span>
      </span>
      <span class="why">{{ t(`planting.${words}.${s.school}.reason`) }}</span>
      <span :class="s.fit === 'poor' ? 'warn' : 'fit'"
        >{{ t(`planting.fit.${s.fit}`) }}: {{ t(`planting.because.${s.because}`) }}</span
      >
    </label>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-size: var(--text-3);
  font-weight: 600;
  border-bottom: 2px solid var(--ink);
  padding: 0 0 var(--space-1);
  width: 100%;
}
label {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr);
  gap: 0 var(--space-1);
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
  min-height: 56px;
  cursor: pointer;
}
label.off {
  cursor: default;
  opacity: 0.7;
}
label:focus-within {
  outline: 3px solid var(--water);
  outline-offset: 2px;
}
input {
  width: 22px;
  height: 22px;
  margin: 2px 0 0;
  grid-row: span 3;
}
.what {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-4);
}
.picked strong {
  text-decoration: underline;
  text-underline-offset: 4px;
  text-decoration-thickness: 2px;
}
.why {
  grid-column: 2;
}
.fit,
label .warn {
  grid-column: 2;
  color: var(--ink-2);
}
label .warn {
  color: var(--warning);
}
</style>
