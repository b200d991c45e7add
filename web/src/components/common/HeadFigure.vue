<script setup lang="ts">
/** What a page comes to, in one figure, and what that figure is. */
import BigFigure from '@/components/common/BigFigure.vue'

defineProps<{ value: number; size?: number }>()
</script>

<template>
  <div class="head">
    <BigFigure dimension="volume" :value="value" :digits="0" :size="size ?? 56" />
    <span class="for"><slot /></span>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: var(--space-1) var(--space-4);
}
.for {
  font-size: var(--text-4);
}
@media (max-width: 767px) {
  .for {
    font-size: var(--text-3);
  }
}
</style>
