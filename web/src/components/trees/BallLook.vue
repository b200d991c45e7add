<script setup lang="ts">
/** The ball as typed, looked at: what it holds and weighs, how it is lifted, how it stands against the standard. */
import { watchDebounced } from '@vueuse/core'
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, Problem, take, type Schema } from '@/api/client'
import { text } from '@/units'

const props = defineProps<{
  kind: Schema['TreeIn']['kind']
  caliper: number | null
  across: number | null
  height: number | null
  volume: number | null
}>()
const { t } = useI18n()
const look = ref<Schema['BallOut'] | null>(null)
watchDebounced(
  props,
  async () => {
    const { kind, caliper, across, height, volume } = props
    if (![caliper, across, height].every((v) => v !== null && v > 0) || (volume !== null && volume <= 0)) {
      look.value = null
      return
    }
    try {
      look.value = await take(
        api.GET('/api/ball', {
          params: {
            query: {
              kind,
              caliper_m: caliper!,
              ball_diameter_m: across!,
              ball_height_m: height!,
              ball_volume_l: volume ?? undefined,
            },
          },
        }),
      )
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      look.value = null // the form itself says what is wrong once it is sent
    }
  },
  { debounce: 300, immediate: true, deep: true },
)
</script>

<template>
  <div v-if="look" class="look" aria-live="polite">
    <p v-if="kind !== 'bare_root'">
      <strong>{{
        t('ball.is', { volume: text('volume', look.volume_l, 0), weight: text('weight', look.weight_kg, 0) })
      }}</strong>
      {{ t('ball.soaked', { weight: text('weight', look.soaked_kg, 0), gives: text('volume', look.gives_l) }) }}
    </p>
    <p v-if="kind !== 'bare_root'" :class="{ warn: look.lift !== 'one_person' }">{{ t(`ball.lift.${look.lift}`) }}</p>
    <p class="quiet">
      {{ t('ball.measureAt', { height: text('small', look.caliper_height_m, 0) }) }}
      <template v-if="look.least_ball_m">{{
        t(kind === 'bare_root' ? 'ball.leastSpread' : 'ball.least', { across: text('small', look.least_ball_m, 0) })
      }}</template>
      {{ t('ball.crown', { crown: text('large', look.crown_m, 1) }) }}
    </p>
    <p v-for="d in look.doubts" :key="d" class="warn">{{ t(`doubt.${d}`) }}</p>
  </div>
</template>
