<script setup lang="ts">
/** The trees are in the ground: when, how high the flares ended up, how much was poured. Each is proposed. */
import { computed, reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, type Schema, type Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { useClock } from '@/composables/useClock'
import { deviceId, useDevice } from '@/composables/useDevice'
import { hourMinute } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{ planting: Schema['PlantingOut'] }>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ planted: [] }>()
const { t } = useI18n()
const { nowIso } = useClock()
const { person, ensurePerson } = useDevice()
/** The same message sent again, its answer lost, is the same planting. */
let id = ''
const given = reactive({ day: '', at: '', raise_m: null as number | null, water_l: null as number | null })
const unreadable = reactive({ raise_m: false, water_l: false })
const errors = ref<Record<string, Wrong>>({})
const failed = ref('')
const busy = ref(false)

/** What the backfill took comes off the yard's count by itself. */
const mixed = computed(() => {
  const { totals } = props.planting.figures
  return (['compost', 'coir', 'sand'] as const)
    .filter((name) => totals[`${name}_l`] > 0)
    .map((name) => `${text('bulk', totals[`${name}_l`])} ${t(`planting.${name}`)}`)
    .join(', ')
})
watch(
  open,
  (shown) => {
    if (!shown) return
    id = newId()
    const { today, zone, figures } = props.planting
    Object.assign(given, { day: today, at: hourMinute(nowIso(), zone) })
    Object.assign(given, { raise_m: figures.choice.raise_m, water_l: figures.first.litres })
    errors.value = {}
    failed.value = ''
  },
  { immediate: true },
)
async function planted() {
  if (!(await ensurePerson())) return
  busy.value = true
  errors.value = {}
  failed.value = ''
  try {
    await persist(() =>
      api.POST('/api/plantings/{planting_id}/planted', {
        params: { path: { planting_id: props.planting.id } },
        body: {
          id,
          day: given.day || null,
          at: given.at || null,
          raise_m: given.raise_m,
          water_l: given.water_l,
          device_id: deviceId(),
          person_id: person.value?.id ?? null,
        },
      }),
    )
    open.value = false
    emit('planted')
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    errors.value = e.fields
    const known = Object.keys(e.fields).some((name) => name in given)
    failed.value = e.detail === 'offline' ? t('common.offline') : known ? t('form.notSaved') : e.detail
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <el-dialog
    v-model="open"
    :title="t('planting.plantedTitle', { n: planting.left }, planting.left)"
    width="min(460px, 94vw)"
  >
    <form class="fields" novalidate @submit.prevent="planted">
      <FormField id="pd-day" :label="t('planting.plantedDay')" :error="errors.day">
        <input id="pd-day" v-model="given.day" class="plain-input" type="date" :max="planting.today" />
      </FormField>
      <FormField id="pd-at" :label="t('planting.plantedAt')" :error="errors.at">
        <input id="pd-at" v-model="given.at" class="plain-input" type="time" />
      </FormField>
      <QuantityInput
        id="pd-raise"
        v-model="given.raise_m"
        v-model:invalid="unreadable.raise_m"
        dimension="small"
        :digits="1"
        :label="t('planting.plantedRaise')"
        :hint="t('planting.plantedRaiseHint')"
        :error="errors.raise_m"
      />
      <QuantityInput
        id="pd-water"
        v-model="given.water_l"
        v-model:invalid="unreadable.water_l"
        dimension="volume"
        :digits="1"
        :label="t('planting.plantedWater')"
        :hint="t('planting.plantedWaterHint')"
        :error="errors.water_l"
      />
      <p v-if="mixed" class="quiet">{{ t('planting.plantedYard', { what: mixed }) }}</p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <button
        class="button main"
        :disabled="busy || unreadable.raise_m || unreadable.water_l || given.raise_m === null || given.water_l === null"
      >
        {{ t('planting.plantedKeep') }}
      </button>
    </form>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: var(--space-4);
}
.fields .button {
  min-height: 56px;
}
</style>
