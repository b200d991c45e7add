<script setup lang="ts">
/** What a ball weighs: one of field soil gains when it is soaked, container mix is reckoned wet from the first. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { text } from '@/units'

defineProps<{ hole: Schema['PlantingFiguresOut']['hole'] }>()
const { t } = useI18n()
</script>

<template>
  {{
    t(hole.soaked_kg > hole.ball_weight_kg ? 'planting.weight' : 'planting.weightWet', {
      kg: text('weight', hole.ball_weight_kg),
      soaked: text('weight', hole.soaked_kg),
    })
  }}.
</template>
