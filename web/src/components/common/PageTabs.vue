<script setup lang="ts">
/** Pages of one thing side by side, the one that is open marked. */
import type { RouteLocationRaw } from 'vue-router'

defineProps<{ label: string; pages: { key: string; words: string; to: RouteLocationRaw }[] }>()
</script>

<template>
  <nav class="tabs no-print" :aria-label="label">
    <RouterLink v-for="p in pages" :key="p.key" :to="p.to" replace>{{ p.words }}</RouterLink>
    <slot />
  </nav>
</template>

<style>
.tabs {
  display: flex;
  gap: var(--space-1);
  flex: none;
}
.tabs a {
  min-height: var(--tap);
  padding: 0 var(--space-4);
  display: inline-flex;
  align-items: center;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 4px solid transparent;
  font-size: var(--text-2);
}
.tabs a[aria-current] {
  font-weight: 600;
  border-bottom-color: var(--ink);
}
@media (max-width: 767px) {
  /* six of them fit; longer words slide */
  .tabs {
    width: 100%;
    gap: 0;
    justify-content: space-between;
    overflow: auto hidden;
  }
  .tabs a {
    padding: 0 var(--space-1);
    outline-offset: -3px;
  }
  .tabs a:first-child {
    padding-left: 0;
  }
  .tabs a:last-child {
    padding-right: 0;
  }
}
</style>
