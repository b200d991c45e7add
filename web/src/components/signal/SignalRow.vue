<script setup lang="ts">
/** One thing that waits for a person: what it is, and below it what can be done. */
</script>

<template>
  <li>
    <slot />
    <div class="ways"><slot name="ways" /></div>
  </li>
</template>

<style scoped>
li {
  display: grid;
  gap: var(--space-3);
  padding: var(--space-4) 0;
  border-bottom: 1px solid var(--hair);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
}
</style>
