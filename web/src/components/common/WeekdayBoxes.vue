<script setup lang="ts">
/** Which days of the week, as boxes to tick; Monday counts as `from`. */
import { weekdayName } from '@/logic/dates'

const props = withDefaults(defineProps<{ label: string; from?: 0 | 1; named?: boolean }>(), { from: 0 })
const days = defineModel<number[]>({ required: true })
const WEEK = Array.from({ length: 7 }, (_, i) => i)
</script>

<template>
  <div class="field full days" role="group" :aria-label="props.label">
    <span v-if="props.named" class="label">{{ props.label }}</span>
    <label v-for="d in WEEK" :key="d" class="day">
      <input v-model="days" type="checkbox" :value="d + props.from" />{{ weekdayName(d) }}
    </label>
    <slot />
  </div>
</template>
