<script setup lang="ts">
/** A label, a control, and what is wrong with it or helps. */
defineProps<{ id: string; label: string; hint?: string; error?: string }>()
</script>

<template>
  <div class="field" :class="{ bad: error }">
    <label :for="id">{{ label }}</label>
    <slot />
    <p v-if="error" :id="`${id}-say`" class="warn">{{ error }}</p>
    <p v-else-if="hint" :id="`${id}-say`" class="hint">{{ hint }}</p>
  </div>
</template>
