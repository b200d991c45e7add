<script setup lang="ts">
/** A measured day put right by hand: what the station should have said. */
import { computed, reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, take, type Schema, type Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { useMeasures } from '@/composables/useMeasures'
import { fullDay } from '@/logic/dates'
import { sent } from '@/logic/numbers'
import type { Dimension } from '@/units'

const props = defineProps<{ stationId: string; day: string }>()
const emit = defineEmits<{ close: []; kept: [] }>()
const { t } = useI18n()
type Reading = keyof Omit<Schema['DayIn'], never>
const MEASURES: [Reading, Dimension, string][] = [
  ['tmin_c', 'temperature', 'low'],
  ['tmax_c', 'temperature', 'high'],
  ['rain_mm', 'rain', 'rain'],
  ['wind_m_s', 'wind', 'wind'],
  ['dew_point_c', 'temperature', 'dewPoint'],
  ['eto_station_mm', 'rain', 'stationEto'],
]
const NUMBERS: [Reading, string, string][] = [
  ['rh_percent', '%', 'humidity'],
  ['rh_min_percent', '%', 'humidityMin'],
  ['rh_max_percent', '%', 'humidityMax'],
  ['sun_h', 'h', 'sunHours'],
  ['radiation_mj_m2', 'MJ/m²', 'radiation'],
]
/** Asked of every day; the others where the station has them. */
const ALWAYS: Reading[] = ['tmin_c', 'tmax_c', 'rain_mm', 'wind_m_s', 'rh_percent']
const values = reactive<Partial<Record<Reading, number | null>>>({})
const had = ref<Reading[]>([])
const errors = ref<Record<string, Wrong>>({})
const failed = ref('')
const busy = ref(false)
const ready = ref(false)
const { unread } = useMeasures()
let id = newId()
const shown = (name: Reading) => ALWAYS.includes(name) || had.value.includes(name)
const measures = computed(() => MEASURES.filter(([name]) => shown(name)))
const numbers = computed(() => NUMBERS.filter(([name]) => shown(name)))
const where = () => ({ station_id: props.stationId, day: props.day })

watch(
  () => props.day,
  async () => {
    ready.value = false
    id = newId()
    errors.value = {}
    failed.value = ''
    try {
      const found = await take(api.GET('/api/stations/{station_id}/days/{day}', { params: { path: where() } }))
      for (const [name] of [...MEASURES, ...NUMBERS]) values[name] = found[name]
      had.value = [...MEASURES, ...NUMBERS].map(([name]) => name as Reading).filter((name) => found[name] !== null)
      ready.value = true
    } catch (e) {
      failed.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
    }
  },
  { immediate: true },
)
/** Other figures are another correction: what was sent and never answered may be stored already. */
watch(values, () => (id = newId()))
function typed(name: Reading, text: string) {
  values[name] = sent(text)
}
async function keep() {
  errors.value = {}
  failed.value = unread.value
  if (failed.value) return
  busy.value = true
  try {
    await persist(() =>
      api.PUT('/api/stations/{station_id}/days/{day}/corrections/{import_id}', {
        params: { path: { ...where(), import_id: id } },
        body: { ...values } as Schema['DayIn'],
      }),
    )
    emit('kept')
    emit('close')
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    errors.value = e.fields
    const own = Object.keys(e.fields).some((name) => name in values)
    failed.value = e.detail === 'offline' ? t('common.offline') : own ? t('form.notSaved') : e.detail
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <el-dialog
    :model-value="true"
    :title="t('weather.correctTitle', { day: fullDay(day) })"
    width="min(520px, 96vw)"
    @close="$emit('close')"
  >
    <form v-if="ready" class="fields" novalidate @submit.prevent="keep">
      <p class="quiet wide">{{ t('weather.correctWords') }}</p>
      <QuantityInput
        v-for="[name, dimension, word] in measures"
        :id="`day-${name}`"
        :key="name"
        :model-value="values[name] ?? null"
        :dimension="dimension"
        :label="t(`weather.${word}`)"
        :digits="dimension === 'rain' ? 2 : 1"
        :error="errors[name]"
        @update:model-value="values[name] = $event"
      />
      <FormField
        v-for="[name, unit, word] in numbers"
        :id="`day-${name}`"
        :key="name"
        :label="`${t(`weather.${word}`)} (${unit})`"
        :error="errors[name]"
      >
        <input
          :id="`day-${name}`"
          class="plain-input"
          type="number"
          step="any"
          :value="values[name]"
          @input="typed(name, ($event.target as HTMLInputElement).value)"
        />
      </FormField>
      <p v-if="failed" class="warn wide" role="alert">{{ failed }}</p>
      <button class="button main" :disabled="busy">{{ t('weather.correctKeep') }}</button>
    </form>
    <p v-else-if="failed" class="warn" role="alert">{{ failed }}</p>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: var(--space-4);
  align-items: start;
}
.wide {
  grid-column: 1 / -1;
}
.main {
  justify-self: start;
}
</style>
