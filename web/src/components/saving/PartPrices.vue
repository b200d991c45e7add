<script setup lang="ts">
/** What parts cost, typed for the unit that is shown. */
import { reactive, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import { priceOf, priceShown, PRICED } from '@/composables/useSavingWords'
import { system } from '@/units'

type Prices = Schema['PricesOut']
const props = defineProps<{ prices: Prices; busy: boolean }>()
const emit = defineEmits<{ save: [prices: Prices] }>()
const { t } = useI18n()
const typed = reactive<Record<string, number | ''>>({})
watch(
  [() => props.prices, system],
  () => PRICED.forEach((name) => (typed[name] = priceShown(name, props.prices[name] ?? null) ?? '')),
  { immediate: true },
)
function submit() {
  const read = (name: (typeof PRICED)[number]) => (typed[name] === '' ? null : priceOf(name, Number(typed[name])))
  emit('save', Object.fromEntries(PRICED.map((name) => [name, read(name)])) as Prices)
}
</script>

<template>
  <form @submit.prevent="submit">
    <FormField v-for="name in PRICED" :id="`price-${name}`" :key="name" :label="t(`saving.price.${name}.${system}`)">
      <input
        :id="`price-${name}`"
        v-model="typed[name]"
        class="plain-input"
        type="number"
        min="0"
        max="100000"
        step="any"
        inputmode="decimal"
      />
    </FormField>
    <button type="submit" class="button" :disabled="busy">{{ t('saving.savePrices') }}</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: var(--space-3) var(--space-5);
  align-items: end;
  max-width: 760px;
}
</style>
