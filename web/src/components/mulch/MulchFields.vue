<script setup lang="ts">
/** The measures of a ring as they are typed; each change is drawn at once. */
import { useI18n } from 'vue-i18n'
import type { Schema, Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'

type Choice = Schema['MulchChoiceIO']
const choice = defineModel<Choice>({ required: true })
const props = defineProps<{ errors: Record<string, Wrong>; materials: Schema['SuitsOut'][] }>()
const { t } = useI18n()
function set<K extends keyof Choice>(name: K, value: Choice[K]) {
  choice.value = { ...choice.value, [name]: value }
}
const wrong = (name: string) => {
  const found = props.errors[name]
  return typeof found === 'object' ? found.detail : found
}
const UNDERLAYS = ['card', 'paper', 'roll'] as const
</script>

<template>
  <div class="fields">
    <FormField id="m-material" :label="t('mulch.material')" :error="wrong('material')">
      <select
        id="m-material"
        :value="choice.material"
        @change="set('material', ($event.target as HTMLSelectElement).value as never)"
      >
        <option v-for="m in materials.filter((x) => x.verdict !== 'avoid')" :key="m.name" :value="m.name">
          {{ t(`material.${m.name}`) }}
        </option>
      </select>
    </FormField>
    <QuantityInput
      id="m-depth"
      dimension="small"
      :label="t('mulch.depth')"
      :model-value="choice.depth_m"
      :error="errors.depth_m"
      @update:model-value="(v) => v && set('depth_m', v)"
    />
    <QuantityInput
      id="m-radius"
      dimension="large"
      :label="t('mulch.radius')"
      :model-value="choice.outer_radius_m"
      :error="errors.outer_radius_m"
      @update:model-value="(v) => v && set('outer_radius_m', v)"
    />
    <QuantityInput
      id="m-gap"
      dimension="small"
      :label="t('mulch.gap')"
      :model-value="choice.clear_gap_m"
      :error="errors.clear_gap_m"
      @update:model-value="(v) => v !== null && set('clear_gap_m', v)"
    />
    <QuantityInput
      id="m-compost"
      dimension="small"
      :label="t('mulch.compost')"
      :model-value="choice.compost_m ?? 0"
      :error="errors.compost_m"
      @update:model-value="(v) => set('compost_m', v ?? 0)"
    />
    <FormField id="m-under" :label="t('mulch.underlay')" :error="wrong('underlay')">
      <select
        id="m-under"
        :value="choice.underlay ?? ''"
        @change="set('underlay', (($event.target as HTMLSelectElement).value || null) as never)"
      >
        <option value="">{{ t('mulch.under.none') }}</option>
        <option v-for="u in UNDERLAYS" :key="u" :value="u">{{ t(`mulch.under.${u}`) }}</option>
      </select>
    </FormField>
    <template v-if="choice.underlay">
      <QuantityInput
        id="m-sheet-w"
        dimension="large"
        :label="t(choice.underlay === 'roll' ? 'mulch.rollW' : 'mulch.sheetW')"
        :model-value="choice.sheet_w_m ?? 1.2"
        :error="errors.width_m"
        @update:model-value="(v) => v && set('sheet_w_m', v)"
      />
      <QuantityInput
        v-if="choice.underlay !== 'roll'"
        id="m-sheet-l"
        dimension="large"
        :label="t('mulch.sheetL')"
        :model-value="choice.sheet_l_m ?? 0.9"
        :error="errors.length_m"
        @update:model-value="(v) => v && set('sheet_l_m', v)"
      />
      <label class="over"
        ><input type="checkbox" :checked="choice.over_ball" @change="set('over_ball', !choice.over_ball)" />{{
          t('mulch.overBall')
        }}</label
      >
      <p v-if="choice.over_ball" class="hint over">{{ t('mulch.skirt') }}</p>
    </template>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(164px, 1fr));
  gap: var(--space-3) var(--space-5);
  align-items: start;
}
.over {
  display: inline-flex;
  gap: var(--space-2);
  align-items: center;
  min-height: var(--tap);
}
.over input {
  width: 22px;
  height: 22px;
}
</style>
