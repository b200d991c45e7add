<script setup lang="ts">
/** The measures of a planting as they are typed; each change is drawn at once. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema, Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { text } from '@/units'

type Choice = Schema['PlantingChoiceIO']
const choice = defineModel<Choice>({ required: true })
const flare = defineModel<number>('flare', { required: true })
const props = defineProps<{
  errors: Record<string, Wrong>
  kind: string
  fittings: Schema['FittingsOut']
  flareTyped: boolean
}>()
const { t } = useI18n()
function set<K extends keyof Choice>(name: K, value: Choice[K]) {
  choice.value = { ...choice.value, [name]: value }
}
const wrong = (name: string) => {
  const found = props.errors[name] ?? props.errors[`choice.${name}`]
  return typeof found === 'object' ? found.detail : found
}
const FEELS = ['wet', 'moist', 'drying', 'dry'] as const
/** What is only said yes or no to. */
const ticks = computed(() => [
  { name: 'feed' as const, words: 'feed' },
  ...(choice.value.depth_school === 'sunken' ? [{ name: 'well_filled' as const, words: 'wellFilled' }] : []),
])
const number = (event: Event) => Number((event.target as HTMLInputElement).value)
/** An emptied field goes back to the ratio in use. */
function setRatio(event: Event) {
  if (number(event) > 0) set('width_ratio', number(event))
  else (event.target as HTMLInputElement).value = String(choice.value.width_ratio)
}
</script>

<template>
  <div class="fields">
    <QuantityInput
      v-if="flareTyped"
      id="p-flare"
      dimension="small"
      :label="t('planting.flare')"
      :model-value="flare"
      :error="wrong('flare_below_top_m')"
      @update:model-value="(v) => (flare = v ?? 0)"
    />
    <QuantityInput
      id="p-raise"
      dimension="small"
      :label="t('planting.raise')"
      :model-value="choice.raise_m"
      :error="wrong('raise_m')"
      @update:model-value="(v) => v !== null && set('raise_m', v)"
    />
    <FormField id="p-ratio" :label="t('planting.ratio')" :error="wrong('width_ratio')">
      <div class="typed">
        <input id="p-ratio" type="number" min="1" max="6" step="0.5" :value="choice.width_ratio" @change="setRatio" />
        <span class="unit">{{ t('planting.ratioTimes') }}</span>
      </div>
    </FormField>
    <QuantityInput
      id="p-graft"
      dimension="small"
      :label="t('planting.graft')"
      :hint="t('planting.graftHint')"
      :model-value="choice.graft_m ?? null"
      :error="wrong('graft_m')"
      @update:model-value="(v) => set('graft_m', v)"
    />
    <QuantityInput
      id="p-mulch"
      dimension="small"
      :label="t('planting.mulchDepth')"
      :model-value="choice.mulch_depth_m"
      :error="wrong('mulch_depth_m')"
      @update:model-value="(v) => v !== null && set('mulch_depth_m', v)"
    />
    <QuantityInput
      id="p-basin"
      dimension="large"
      :label="t('planting.basin')"
      :model-value="choice.basin_diameter_m"
      :error="wrong('basin_diameter_m')"
      @update:model-value="(v) => v && set('basin_diameter_m', v)"
    />
    <QuantityInput
      id="p-ridge"
      dimension="small"
      :label="t('planting.ridge')"
      :model-value="choice.ridge_m"
      :error="wrong('ridge_m')"
      @update:model-value="(v) => v && set('ridge_m', v)"
    />
    <FormField
      v-for="[key, words] in [
        ['ball_feel', 'feelBall'],
        ['backfill_feel', 'feelFill'],
      ] as const"
      :id="`p-${key}`"
      :key="key"
      :label="t(`planting.${words}`)"
    >
      <select
        :id="`p-${key}`"
        :value="choice[key]"
        @change="set(key, ($event.target as HTMLSelectElement).value as never)"
      >
        <option v-for="f in FEELS" :key="f" :value="f">{{ t(`feel.${f}`) }}</option>
      </select>
    </FormField>
    <QuantityInput
      id="p-spacing"
      dimension="large"
      :label="t('planting.spacing')"
      :model-value="choice.spacing_m ?? null"
      :error="wrong('spacing_m')"
      @update:model-value="(v) => set('spacing_m', v)"
    />
    <FormField id="p-sun" :label="t('planting.sun')" :error="wrong('sun_h')">
      <div class="typed">
        <input
          id="p-sun"
          type="number"
          min="0"
          max="18"
          :value="choice.sun_h"
          @change="set('sun_h', ($event.target as HTMLInputElement).value === '' ? null : number($event))"
        />
        <span class="unit">{{ t('planting.hours') }}</span>
      </div>
    </FormField>
    <FormField id="p-firming" :label="t('planting.firming')" :hint="t('planting.firmingHint')">
      <select
        id="p-firming"
        :value="choice.firming"
        @change="set('firming', ($event.target as HTMLSelectElement).value as never)"
      >
        <option v-for="f in ['in_layers', 'lightly']" :key="f" :value="f">{{ t(`planting.firmings.${f}`) }}</option>
      </select>
    </FormField>
    <QuantityInput
      id="p-mower"
      dimension="small"
      :digits="0"
      :label="t('planting.mower')"
      :hint="t('planting.mowerHint')"
      :model-value="choice.mower_m ?? null"
      :error="wrong('mower_m')"
      @update:model-value="(v) => set('mower_m', v)"
    />
    <FormField id="p-support" :label="t('planting.support')" :hint="t(`planting.whySupport.${fittings.why.support}`)">
      <select
        id="p-support"
        :value="choice.support"
        @change="set('support', ($event.target as HTMLSelectElement).value as never)"
      >
        <option v-for="s in ['none', 'one_stake', 'two_posts']" :key="s" :value="s">
          {{ t(`planting.supports.${s}`) }}
        </option>
      </select>
    </FormField>
    <FormField
      id="p-guard"
      :label="t('planting.guard')"
      :hint="fittings.guard === 'none' ? '' : t(`planting.whyGuard.${fittings.why.guard}`)"
    >
      <select
        id="p-guard"
        :value="choice.guard"
        @change="set('guard', ($event.target as HTMLSelectElement).value as never)"
      >
        <option v-for="g in ['none', 'mower', 'animals']" :key="g" :value="g">{{ t(`planting.guards.${g}`) }}</option>
      </select>
    </FormField>
    <QuantityInput
      id="p-edging"
      dimension="small"
      :digits="0"
      :label="t('planting.edging')"
      :hint="
        fittings.edging_m > 0
          ? t(`planting.whyEdging.${fittings.why.edging}`, { across: text('small', fittings.edging_m, 0) })
          : t('planting.edgingHint')
      "
      :model-value="choice.edging_m"
      :error="wrong('edging_m')"
      @update:model-value="(v) => set('edging_m', v ?? 0)"
    />
    <div v-for="c in ticks" :key="c.name" class="wrap">
      <label
        ><input type="checkbox" :checked="Boolean(choice[c.name])" @change="set(c.name, !choice[c.name])" />{{
          t(`planting.${c.words}`)
        }}</label
      >
      <p class="hint">{{ t(`planting.${c.words}Hint`) }}</p>
    </div>
    <div class="wrap">
      <label
        ><input type="checkbox" :checked="choice.wrap" @change="set('wrap', !choice.wrap)" />{{
          t('planting.wrap')
        }}</label
      >
      <p v-if="fittings.wrap" class="hint">{{ t(`planting.whyWrap.${fittings.why.wrap}`) }}</p>
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(168px, 1fr));
  gap: var(--space-3) var(--space-5);
  align-items: start;
}
.wrap {
  grid-column: 1 / -1;
}
.wrap label {
  display: inline-flex;
  gap: var(--space-2);
  align-items: center;
  min-height: var(--tap);
}
.wrap input {
  width: 22px;
  height: 22px;
}
</style>
