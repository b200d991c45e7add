<script setup lang="ts">
/** One of a few, picked by picture and words, never by a number. Radio buttons underneath: arrows move, space picks. */
import type { Wrong } from '@/api/client'
import { useWrong } from '@/composables/useWrong'

defineProps<{
  id: string
  label: string
  options: readonly { value: string; label: string; hint?: string }[]
  error?: Wrong
}>()
const model = defineModel<string>({ required: true })
const say = useWrong()
</script>

<template>
  <fieldset class="pictures" :aria-describedby="error ? `${id}-say` : undefined">
    <legend>{{ label }}</legend>
    <label v-for="o in options" :key="o.value" :class="{ picked: model === o.value }">
      <span class="picture" aria-hidden="true"><slot :value="o.value" /></span>
      <span class="words"><input v-model="model" type="radio" :name="id" :value="o.value" />{{ o.label }}</span>
      <span v-if="o.hint" class="quiet">{{ o.hint }}</span>
    </label>
    <p v-if="error" :id="`${id}-say`" class="warn">{{ say(error) }}</p>
  </fieldset>
</template>

<style scoped>
.pictures.pictures {
  border: 0;
  padding: 0;
  margin: 0;
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(110px, 1fr));
  gap: var(--space-3);
}
legend {
  grid-column: 1 / -1;
  font-size: var(--text-1);
  font-weight: 500;
}
label {
  position: relative;
  display: grid;
  align-content: start;
  gap: var(--space-1);
  padding: 0 0 var(--space-2);
  border-bottom: 4px solid var(--hair);
  cursor: pointer;
  min-height: 56px;
}
label.picked {
  border-bottom-color: var(--water);
}
label.picked .words {
  font-weight: 600;
}
label:focus-within {
  outline: 3px solid var(--water);
  outline-offset: 2px;
}
input {
  flex: none;
  width: 20px;
  height: 20px;
  margin: 0;
  accent-color: var(--water);
}
.picture :deep(svg) {
  display: block;
  width: 100%;
  height: auto;
}
.words {
  display: flex;
  gap: var(--space-2);
  line-height: 1.2;
}
</style>
