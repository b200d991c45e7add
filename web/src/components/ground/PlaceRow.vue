<script setup lang="ts">
/** A row placed by two taps: where its first tree stands, where its last one does; the others stand between. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Tree } from '@/logic/ground'

/** trees: of the row in their order; shown: how many spots were tapped. */
const props = defineProps<{ trees: Tree[]; shown: number; busy: boolean; canUndo: boolean }>()
defineEmits<{ undo: []; cancel: [] }>()
const { t } = useI18n()
const asks = computed(() => {
  const [first, last] = [props.trees[0]!.tag, props.trees.at(-1)!.tag]
  if (props.trees.length === 1) return t('ground.tapOne', { tag: first })
  return props.shown ? t('ground.tapLast', { tag: last }) : t('ground.tapFirst', { tag: first })
})
</script>

<template>
  <div class="place">
    <p class="asks" role="status">{{ asks }}</p>
    <p class="quiet">{{ t('ground.orKeys') }}</p>
    <p class="quiet">{{ t('ground.orTyped') }}</p>
    <div class="buttons">
      <button v-if="canUndo" type="button" class="button" :disabled="busy" @click="$emit('undo')">
        {{ t('ground.undo') }}
      </button>
      <button type="button" class="button" @click="$emit('cancel')">{{ t('ground.done') }}</button>
    </div>
  </div>
</template>

<style scoped>
.asks {
  font-size: var(--text-3);
  font-weight: 600;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
</style>
