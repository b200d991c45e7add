<script setup lang="ts">
/** Pictures to go with what is being written down: from the camera or from what is on the phone. */
import { useI18n } from 'vue-i18n'
import type { Taken } from '@/composables/usePictures'

defineProps<{ id: string; taken: Taken[]; disabled?: boolean }>()
const emit = defineEmits<{ add: [files: File[]]; drop: [one: Taken] }>()
const { t } = useI18n()
function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  emit('add', [...(input.files ?? [])])
  input.value = ''
}
</script>

<template>
  <div class="pictures">
    <ul v-if="taken.length" :aria-label="t('pictures.waiting')">
      <li v-for="(one, n) in taken" :key="one.id">
        <img :src="one.url" :alt="t('pictures.nth', { n: n + 1 })" />
        <button type="button" class="button plain" :disabled="disabled" @click="emit('drop', one)">
          {{ t('pictures.leaveOut') }}<span class="visually-hidden">{{ t('pictures.nth', { n: n + 1 }) }}</span>
        </button>
      </li>
    </ul>
    <input
      :id="id"
      class="visually-hidden"
      type="file"
      accept="image/jpeg,image/png,image/webp"
      multiple
      :disabled="disabled"
      @change="chosen"
    />
    <label :for="id" class="button">{{ t(taken.length ? 'pictures.another' : 'pictures.add') }}</label>
  </div>
</template>

<style scoped>
.pictures {
  margin-top: var(--space-3);
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  list-style: none;
  padding: 0;
}
li {
  display: grid;
  justify-items: center;
}
img {
  width: 96px;
  height: 96px;
  object-fit: cover;
  border: 1px solid var(--hair);
}
label {
  display: inline-flex;
  align-items: center;
  min-height: 56px;
  cursor: pointer;
}
input:focus-visible + label {
  outline: 3px solid var(--water);
  outline-offset: 2px;
}
</style>
