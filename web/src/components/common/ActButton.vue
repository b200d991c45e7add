<script setup lang="ts">
/** A button for gloves: acts on release and ignores a second tap for 600 ms. */
let last = -Infinity
const emit = defineEmits<{ act: [] }>()

function act() {
  const now = performance.now()
  if (now - last < 600) return
  last = now
  emit('act')
}
</script>

<template>
  <button type="button" class="button" @click="act"><slot /></button>
</template>
