<script setup lang="ts">
/** What feeds a line and how its row lies, as it was measured; what was not stays empty. */
import { computed, reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, Problem, type Schema, type Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import BucketTimer from '@/components/site/BucketTimer.vue'
import { useActing } from '@/composables/useActing'

const props = defineProps<{ supply: Schema['SupplyOut']; trees: Schema['OnLineOut'][] }>()
const emit = defineEmits<{ saved: [] }>()
const { t } = useI18n()
const { busy, said, failed, act } = useActing(async () => emit('saved'))
const MEASURES = [
  'static_head_m',
  'open_flow_l_per_h',
  'regulator_head_m',
  'lead_m',
  'spacing_m',
  'rise_percent',
  'bearing_deg',
  'offset_m',
  'bore_mm',
] as const
type Measure = (typeof MEASURES)[number]
const form = reactive<Record<Measure, number | null>>(
  Object.fromEntries(MEASURES.map((m) => [m, null])) as Record<Measure, number | null>,
)
/** Trees that were measured by themselves: along the row and above the valve, in m. */
const lie = ref<Record<string, { along: number | null; up: number | null }>>({})
const uneven = ref(false)
const errors = ref<Record<string, Wrong>>({})
watch(
  () => props.supply,
  (got) => {
    for (const m of MEASURES) form[m] = got[m] ?? null
    lie.value = Object.fromEntries(got.lie.map((one) => [one.tree_id, { along: one.along_m, up: one.up_m }]))
    uneven.value ||= got.lie.length > 0
  },
  { immediate: true },
)
const lieWrong = computed(() => {
  const found = errors.value.lie
  return typeof found === 'object' ? found.detail : found
})
const BEARINGS = [0, 45, 90, 135, 180, 225, 270, 315]
async function saveSupply() {
  errors.value = {}
  await act(async () => {
    try {
      const measured = Object.entries(lie.value).filter(([, one]) => uneven.value && one.along)
      const places = measured.map(([tree_id, one]) => ({ tree_id, along_m: one.along!, up_m: one.up ?? 0 }))
      const body = { ...form, lie: places, version: props.supply.version ?? null }
      await persist(() =>
        api.PUT('/api/lines/{line_id}/supply', { params: { path: { line_id: props.supply.id } }, body }),
      )
    } catch (e) {
      if (e instanceof Problem) errors.value = e.fields
      throw e
    }
  }, t('drip.row.supplyKept'))
}
function put(id: string, part: 'along' | 'up', value: number | null) {
  const before = lie.value[id] ?? { along: null, up: null }
  lie.value = { ...lie.value, [id]: { ...before, [part]: value } }
}
const number = (event: Event) => {
  const raw = (event.target as HTMLInputElement).value.trim()
  return raw === '' || Number.isNaN(Number(raw)) ? null : Number(raw)
}
</script>

<template>
  <form class="form no-print" @submit.prevent="saveSupply">
    <fieldset>
      <legend>{{ t('drip.row.supply') }}</legend>
      <QuantityInput
        id="s-static"
        v-model="form.static_head_m"
        dimension="head"
        :label="t('drip.measure.static_head_m')"
        :hint="t('drip.measure.staticHint')"
        :error="errors.static_head_m"
      />
      <QuantityInput
        id="s-open"
        v-model="form.open_flow_l_per_h"
        dimension="flow"
        :label="t('drip.measure.open_flow_l_per_h')"
        :digits="0"
        :error="errors.open_flow_l_per_h"
      />
      <QuantityInput
        id="s-reg"
        v-model="form.regulator_head_m"
        dimension="head"
        :label="t('drip.measure.regulator_head_m')"
        :error="errors.regulator_head_m"
      />
      <BucketTimer @flow="(f) => (form.open_flow_l_per_h = f)" />
    </fieldset>
    <fieldset>
      <legend>{{ t('drip.row.lies') }}</legend>
      <QuantityInput
        id="s-lead"
        v-model="form.lead_m"
        dimension="large"
        :label="t('drip.measure.lead_m')"
        :error="errors.lead_m"
      />
      <QuantityInput
        id="s-space"
        v-model="form.spacing_m"
        dimension="large"
        :label="t('drip.measure.spacing_m')"
        :error="errors.spacing_m"
      />
      <FormField
        id="s-rise"
        :label="t('drip.measure.rise_percent')"
        :hint="t('drip.measure.riseHint')"
        :error="errors.rise_percent"
      >
        <div class="typed">
          <input
            id="s-rise"
            :value="form.rise_percent ?? ''"
            inputmode="decimal"
            autocomplete="off"
            @input="form.rise_percent = number($event)"
          />
          <span class="unit">%</span>
        </div>
      </FormField>
      <FormField id="s-way" :label="t('drip.measure.bearing_deg')" :error="errors.bearing_deg">
        <select id="s-way" :value="form.bearing_deg ?? ''" @change="form.bearing_deg = number($event)">
          <option value="">{{ t('drip.row.notSaid') }}</option>
          <option v-for="b in BEARINGS" :key="b" :value="b">{{ t(`drip.bearing.${b}`) }}</option>
        </select>
      </FormField>
      <QuantityInput
        id="s-off"
        v-model="form.offset_m"
        dimension="large"
        :label="t('drip.measure.offset_m')"
        :hint="t('drip.measure.offsetHint')"
        :error="errors.offset_m"
      />
      <QuantityInput
        id="s-bore"
        v-model="form.bore_mm"
        dimension="bore"
        :label="t('drip.measure.bore_mm')"
        :error="errors.bore_mm"
      />
      <label v-if="trees.length" class="even">
        <input v-model="uneven" type="checkbox" />{{ t('drip.row.unevenly') }}
      </label>
    </fieldset>
    <fieldset v-if="uneven && trees.length">
      <legend>{{ t('drip.row.eachTree') }}</legend>
      <p class="quiet wide">{{ t('drip.row.eachHint') }}</p>
      <p v-if="errors.lie" class="warn wide" role="alert">{{ lieWrong }}</p>
      <template v-for="tree in trees" :key="tree.id">
        <QuantityInput
          :id="`s-along-${tree.id}`"
          dimension="large"
          :label="t('drip.row.along', { tag: tree.tag })"
          :model-value="lie[tree.id]?.along ?? null"
          @update:model-value="(v) => put(tree.id, 'along', v)"
        />
        <QuantityInput
          :id="`s-up-${tree.id}`"
          dimension="large"
          :label="t('drip.row.up', { tag: tree.tag })"
          :model-value="lie[tree.id]?.up ?? null"
          @update:model-value="(v) => put(tree.id, 'up', v)"
        />
      </template>
    </fieldset>
    <button class="button main" :disabled="busy">{{ t('drip.row.saveSupply') }}</button>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </form>
</template>

<style scoped>
.form {
  margin-top: var(--space-7);
}
.even {
  display: inline-flex;
  gap: var(--space-2);
  align-items: center;
  min-height: var(--tap);
}
.even input {
  width: 22px;
  height: 22px;
}
.wide {
  grid-column: 1 / -1;
}
</style>
