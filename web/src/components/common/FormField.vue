<script setup lang="ts">
/** A label, a control, and what is wrong with it or helps. */
import { ref, watch } from 'vue'
import type { Wrong } from '@/api/client'
import { useWrong } from '@/composables/useWrong'

const props = defineProps<{ id: string; label: string; hint?: string; error?: Wrong }>()
const say = useWrong()
const root = ref<HTMLElement | null>(null)
/** The control is the caller's: what is said of it is tied to it here, once for all forms. */
watch(
  [root, () => props.error, () => props.hint],
  () => {
    const control = root.value?.querySelector<HTMLElement>('input, select, textarea')
    control?.toggleAttribute('aria-invalid', false)
    if (props.error) control?.setAttribute('aria-invalid', 'true')
    if (props.error || props.hint) control?.setAttribute('aria-describedby', `${props.id}-say`)
    else control?.removeAttribute('aria-describedby')
  },
  { flush: 'post' },
)
</script>

<template>
  <div ref="root" class="field" :class="{ bad: error }">
    <label :for="id">{{ label }}</label>
    <slot />
    <p v-if="error" :id="`${id}-say`" class="warn">{{ say(error) }}</p>
    <p v-else-if="hint" :id="`${id}-say`" class="hint">{{ hint }}</p>
  </div>
</template>
