<script setup lang="ts">
/** The ball as typed, looked at: what it holds and weighs, how it is lifted, how it stands against the standard. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useLook } from '@/composables/useLook'
import { text } from '@/units'

const props = defineProps<{
  kind: Schema['TreeIn']['kind']
  caliper: number | null
  across: number | null
  height: number | null
  volume: number | null
}>()
const { t } = useI18n()
const seen = ref<Schema['BallOut'] | null>(null)
const { look, now } = useLook(
  (signal) => {
    const { kind, caliper, across, height, volume } = props
    if (![caliper, across, height].every((v) => v !== null && v > 0) || (volume !== null && volume <= 0)) return null
    const query = {
      kind,
      caliper_m: caliper!,
      ball_diameter_m: across!,
      ball_height_m: height!,
      ball_volume_l: volume ?? undefined,
    }
    return take(api.GET('/api/ball', { params: { query }, signal }))
  },
  (found) => (seen.value = found),
  { none: () => (seen.value = null) }, // the form itself says what is wrong once it is sent
)
watch(props, look)
void now()
</script>

<template>
  <div v-if="seen" class="look" aria-live="polite">
    <p v-if="kind !== 'bare_root'">
      <strong>{{
        t('ball.is', { volume: text('volume', seen.volume_l, 0), weight: text('weight', seen.weight_kg, 0) })
      }}</strong>
      {{ t('ball.soaked', { weight: text('weight', seen.soaked_kg, 0), gives: text('volume', seen.gives_l) }) }}
    </p>
    <p v-if="kind !== 'bare_root'" :class="{ warn: seen.lift !== 'one_person' }">{{ t(`ball.lift.${seen.lift}`) }}</p>
    <p class="quiet">
      {{ t('ball.measureAt', { height: text('small', seen.caliper_height_m, 0) }) }}
      <template v-if="seen.least_ball_m">{{
        t(kind === 'bare_root' ? 'ball.leastSpread' : 'ball.least', { across: text('small', seen.least_ball_m, 0) })
      }}</template>
      {{ t('ball.crown', { crown: text('large', seen.crown_m, 1) }) }}
    </p>
    <p v-for="d in seen.doubts" :key="d" class="warn">{{ t(`doubt.${d}`) }}</p>
  </div>
</template>
