<script setup lang="ts">
/** What a soil test says, in words: texture and its neighbour, figures, judgements with what to do. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { longDay } from '@/logic/dates'
import { one, text } from '@/units'
import { fixed } from '@/logic/numbers'

const props = defineProps<{ outcome: Schema['OutcomeOut']; dryOn?: string | null; brief?: boolean }>()
const { t } = useI18n()
const f = computed(() => props.outcome.figures)
const shares = computed(() =>
  f.value.sand_percent === undefined
    ? ''
    : t('soil.shares', {
        sand: Math.round(f.value.sand_percent),
        silt: Math.round(f.value.silt_percent!),
        clay: Math.round(f.value.clay_percent!),
      }),
)
const head = computed(() => {
  if (props.outcome.texture) return t(`texture.${props.outcome.texture}`)
  if (f.value.fall_mm_h !== undefined) return t('soil.falls', { pace: text('pace', f.value.fall_mm_h) })
  if (f.value.intake_mm_h !== undefined) return t('soil.takes', { pace: text('pace', f.value.intake_mm_h) })
  if (f.value.depth_m !== undefined) return t('soil.rootsTo', { depth: text('small', f.value.depth_m, 0) })
  return props.outcome.codes[0] ? t(`soil.code.${props.outcome.codes[0]}.head`) : ''
})
const said = computed(() =>
  props.outcome.codes.map((code) => ({
    code,
    words: t(`soil.code.${code}.words`, { day: props.dryOn ? longDay(props.dryOn) : t('soil.someDay') }),
  })),
)
const WARNED = ['wait', 'after_rain', 'moisten', 'clump_too_wet', 'drains_very_poor', 'drains_poor', 'roots_stopped', 'takes_nothing', 'shallow'] // prettier-ignore
</script>

<template>
  <div class="outcome">
    <p class="head">{{ head }}</p>
    <p v-if="shares" class="quiet">{{ shares }}</p>
    <template v-if="!brief">
      <p v-if="outcome.neighbour">{{ t('soil.neighbour', { other: t(`texture.${outcome.neighbour}`) }) }}</p>
      <p v-if="outcome.measured.conductivity_mm_h !== undefined">
        {{ t('soil.conducts', { pace: one('pace', outcome.measured.conductivity_mm_h) }) }}
      </p>
      <p v-if="outcome.drain_cap !== null">
        {{ t('soil.cap', { share: Math.round(100 * outcome.drain_cap) }) }}
      </p>
      <p v-if="outcome.figures.bulk_density_g_cm3 !== undefined" class="quiet">
        {{ t('soil.packedTo', { density: fixed(outcome.figures.bulk_density_g_cm3, 2) }) }}
      </p>
      <p v-for="s in said" :key="s.code" :class="{ warn: WARNED.includes(s.code) }">{{ s.words }}</p>
    </template>
  </div>
</template>

<style scoped>
.outcome {
  display: grid;
  gap: var(--space-2);
}
.head {
  font-size: var(--text-5);
  font-weight: 600;
  line-height: 1.1;
}
.outcome.brief .head {
  font-size: var(--text-2);
}
</style>
