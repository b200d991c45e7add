<script setup lang="ts">
/** An amount in pourable steps, or typed. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import ActButton from '@/components/common/ActButton.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { isUs, parse, text } from '@/units'

const props = defineProps<{ planned: number; start?: number | null }>()
const emit = defineEmits<{ log: [litres: number] }>()
const { t } = useI18n()
const step = computed(() => (isUs.value ? (parse('volume', '1/2 gal') ?? 1) : 1))
const litres = ref(Math.max(step.value, Math.round((props.start ?? props.planned) / step.value) * step.value))
/** Typed as poured: what was left in the field while it can't be read is nothing. */
const typed = computed({
  get: () => litres.value,
  set: (value: number | null) => {
    if (value !== null && value > 0) litres.value = value
  },
})
const far = computed(() => text('volume', step.value * 5))
const by = (n: number) => {
  litres.value = Math.max(step.value, Math.round((litres.value + n * step.value) / step.value) * step.value)
}
</script>

<template>
  <div>
    <p class="quiet"><slot /> {{ t('today.planned', { amount: text('volume', planned) }) }}</p>
    <div class="stepper">
      <button type="button" class="button" :aria-label="t('today.less')" @click="by(-1)">−</button>
      <output aria-live="polite"><BigFigure dimension="volume" :value="litres" :size="56" /></output>
      <button type="button" class="button" :aria-label="t('today.more')" @click="by(1)">+</button>
    </div>
    <div class="stepper far">
      <button type="button" class="button" :aria-label="`${t('today.less')} − ${far}`" @click="by(-5)">
        − {{ far }}
      </button>
      <button type="button" class="button" :aria-label="`${t('today.more')} + ${far}`" @click="by(5)">
        + {{ far }}
      </button>
    </div>
    <QuantityInput id="amount-typed" v-model="typed" class="typed" dimension="volume" :label="t('today.typeAmount')" />
    <ActButton class="main log" @act="emit('log', litres)">{{
      t('today.log', { amount: text('volume', litres) })
    }}</ActButton>
  </div>
</template>

<style scoped>
.stepper {
  display: grid;
  grid-template-columns: 72px 1fr 72px;
  gap: var(--space-3);
  align-items: center;
  text-align: center;
  margin: var(--space-4) 0 var(--space-3);
}
.stepper .button {
  min-height: 64px;
  font-size: var(--text-5);
  padding: 0;
}
.far {
  grid-template-columns: 1fr 1fr;
  margin: 0 0 var(--space-4);
}
.far .button {
  min-height: 56px;
  font-size: var(--text-2);
}
.typed {
  margin-bottom: var(--space-4);
}
.log {
  width: 100%;
  min-height: 64px;
  font-size: var(--text-4);
}
</style>
