<script setup lang="ts">
/** A figure to act on: the number large, its unit beside it at 0.45 of its size on the same baseline. */
import { computed } from 'vue'
import { show, type Dimension } from '@/units'

const props = defineProps<{ dimension: Dimension; value: number; size: number; digits?: number }>()
const shown = computed(() => show(props.dimension, props.value, props.digits))
</script>

<template>
  <span class="big" :style="{ fontSize: `${size}px` }"
    >{{ shown.value }}<span class="unit">{{ `\u2009${shown.unit}` }}</span></span
  >
</template>

<style scoped>
.big {
  font-weight: 600;
  line-height: 1;
  letter-spacing: -0.01em;
  white-space: nowrap;
}
.unit {
  font-size: 0.45em;
  font-weight: 500;
  letter-spacing: 0;
}
</style>
