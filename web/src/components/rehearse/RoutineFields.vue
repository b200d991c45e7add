<script setup lang="ts">
/** The figures that a routine goes by. */
import { useId } from 'vue'
import { useI18n } from 'vue-i18n'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { FIGURES, type Figure, type Routine } from '@/logic/routines'
import type { Dimension } from '@/units'

const model = defineModel<Routine>({ required: true })
const { t } = useI18n()
const id = useId()
const MEASURES: Partial<Record<Figure, Dimension>> = { litres: 'volume', mm: 'rain', flow_l_per_h: 'flow' }
const plain = (figure: Figure) =>
  figure === 'dry_limit' ? Math.round(100 * (model.value.dry_limit ?? 0)) : model.value[figure]
function set(figure: Figure, value: number | null) {
  model.value = { ...model.value, [figure]: value }
}
function typed(figure: Figure, words: string) {
  const value = words.trim() ? Number(words.replace(',', '.')) : null
  if (value === null || Number.isFinite(value))
    set(figure, figure === 'dry_limit' && value !== null ? value / 100 : value)
}
</script>

<template>
  <div class="figures">
    <template v-for="figure in FIGURES[model.name]" :key="figure">
      <QuantityInput
        v-if="MEASURES[figure]"
        :id="`${id}-${figure}`"
        :model-value="model[figure]"
        :dimension="MEASURES[figure]!"
        :label="t(`rehearse.field.${figure}`)"
        @update:model-value="(v) => set(figure, v)"
      />
      <div v-else class="field">
        <label :for="`${id}-${figure}`">{{ t(`rehearse.field.${figure}`) }}</label>
        <input
          :id="`${id}-${figure}`"
          class="plain-input"
          type="number"
          :min="figure === 'hours' ? 0.5 : figure === 'dry_limit' ? 10 : 1"
          :step="figure === 'hours' ? 0.5 : 1"
          :value="plain(figure)"
          @input="typed(figure, ($event.target as HTMLInputElement).value)"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: end;
}
.figures > * {
  width: 190px;
}
</style>
