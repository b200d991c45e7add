<script setup lang="ts">
/** A row of the fortnight's foot: its name, and what stands under the days or the weeks. */
defineProps<{ names: number; columns: number }>()
</script>

<template>
  <div role="row" class="line" :style="{ '--names': `${names}px`, '--columns': columns }">
    <span role="rowheader" class="name"><slot name="head" /></span>
    <slot />
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: var(--names) repeat(var(--columns), minmax(0, 1fr));
  align-items: baseline;
  min-height: 32px;
}
@media (max-width: 767px) {
  .name {
    font-family: var(--condensed);
    line-height: 1.1;
  }
}
</style>
