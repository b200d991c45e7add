<script setup lang="ts">
/** A label, a control, and what is wrong with it or helps. */
import type { Wrong } from '@/api/client'
import { useWrong } from '@/composables/useWrong'

defineProps<{ id: string; label: string; hint?: string; error?: Wrong }>()
const say = useWrong()
</script>

<template>
  <div class="field" :class="{ bad: error }">
    <label :for="id">{{ label }}</label>
    <slot />
    <p v-if="error" :id="`${id}-say`" class="warn">{{ say(error) }}</p>
    <p v-else-if="hint" :id="`${id}-say`" class="hint">{{ hint }}</p>
  </div>
</template>
