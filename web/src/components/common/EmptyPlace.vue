<script setup lang="ts">
/** What is missing, why it matters, and the button that mends it. */
defineProps<{ title: string; words: string }>()
</script>

<template>
  <div class="empty">
    <svg width="240" height="96" viewBox="0 0 240 96" aria-hidden="true">
      <rect y="48" width="240" height="48" class="soil" />
      <path d="M84 48L92 84H148L156 48Z" class="hole" />
      <path d="M0 48H240" class="line" />
    </svg>
    <h2>{{ title }}</h2>
    <p>{{ words }}</p>
    <div class="acts"><slot /></div>
  </div>
</template>

<style scoped>
.empty {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
  max-width: 560px;
  padding: var(--space-2) 0 var(--space-7);
}
.acts {
  display: flex;
  gap: var(--space-3);
  flex-wrap: wrap;
}
.soil {
  fill: var(--soil);
}
.hole {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-dasharray: 4 3;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
