<script setup lang="ts">
/** Add or edit a kind of tree. */
import { computed, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, missing, newId, persist, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import FormActs from '@/components/common/FormActs.vue'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { useForm } from '@/composables/useForm'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ id?: string }>()
const { t } = useI18n()
const router = useRouter()
const id = props.id ?? newId()
const { data, loading, error, load } = useResource(async (signal) => {
  const plants = await take(api.GET('/api/plants', { signal }))
  const plant = plants.find((p) => p.id === props.id) ?? null
  if (props.id && !plant) throw missing(props.id)
  return { plant }
})
const blank = {
  common: '',
  botanical: '',
  water_need: 'moderate' as Schema['PlantIn']['water_need'],
  evergreen: false,
  leaf_out: '',
  leaf_fall: '',
  drought_tolerance: 'moderate' as Schema['PlantIn']['drought_tolerance'],
  salt_tolerance: 'sensitive' as Schema['PlantIn']['salt_tolerance'],
  mature_height_m: null as number | null,
  mature_spread_m: null as number | null,
  sun_hours: 6 as number | '',
  fruit: 'none' as NonNullable<Schema['PlantIn']['fruit']>,
  frost_c: null as number | null,
  pests: [] as NonNullable<Schema['PlantIn']['pests']>,
  source: '',
  version: null as number | null,
}
const { form, errors, unreadable, refused, other, busy, fill, save, discard } = useForm(props.id ?? 'new-plant', blank)
watch(data, (got) => {
  const p = got?.plant
  if (!p) return
  fill({ ...p, leaf_out: p.leaf_out ?? '', leaf_fall: p.leaf_fall ?? '' } as typeof blank)
})
const PESTS = ['borers', 'scale', 'mites', 'aphids', 'leafminer', 'fire_blight', 'bagworms'] as const
const title = computed(() => (props.id ? t('plants.edit', { name: data.value?.plant?.common ?? '' }) : t('plants.add')))
async function submit() {
  const body = {
    ...Object.fromEntries(Object.keys(blank).map((k) => [k, form[k as keyof typeof blank]])),
    leaf_out: form.evergreen ? null : form.leaf_out || null,
    leaf_fall: form.evergreen ? null : form.leaf_fall || null,
    source: form.source || 'typed here',
    sun_hours: Number(form.sun_hours) || 0,
  } as Schema['PlantIn']
  const done = await save(['common', 'botanical', 'mature_height_m', 'mature_spread_m'], () =>
    persist(() => api.PUT('/api/plants/{plant_id}', { params: { path: { plant_id: id } }, body })),
  )
  if (done) router.back()
}
function cancel() {
  discard()
  router.back()
}
</script>

<template>
  <PageFrame :title="title" :error="error" :loading="loading && !data" @retry="load">
    <form class="form" novalidate @submit.prevent="submit">
      <fieldset>
        <legend>{{ t('plants.common') }}</legend>
        <FormField id="p-common" :label="t('plants.common')" :error="errors.common">
          <input id="p-common" v-model="form.common" class="plain-input" maxlength="80" autocomplete="off" />
        </FormField>
        <FormField id="p-botanical" class="wide" :label="t('plants.botanical')" :error="errors.botanical">
          <input id="p-botanical" v-model="form.botanical" class="plain-input" maxlength="80" autocomplete="off" />
        </FormField>
        <QuantityInput
          id="p-height"
          v-model="form.mature_height_m"
          v-model:invalid="unreadable.mature_height_m"
          dimension="large"
          :digits="0"
          :label="t('plants.height')"
          :error="errors.mature_height_m"
          required
        />
        <QuantityInput
          id="p-spread"
          v-model="form.mature_spread_m"
          v-model:invalid="unreadable.mature_spread_m"
          dimension="large"
          :digits="0"
          :label="t('plants.spread')"
          :error="errors.mature_spread_m"
          required
        />
        <FormField id="p-sun" :label="t('plants.sun')" :error="errors.sun_hours">
          <div class="typed">
            <input id="p-sun" v-model="form.sun_hours" type="number" min="0" max="16" />
            <span class="unit">{{ t('planting.hours') }}</span>
          </div>
        </FormField>
      </fieldset>
      <fieldset>
        <legend>{{ t('sites.supply') }}</legend>
        <FormField id="p-need" :label="t('plants.need')" :error="errors.water_need">
          <select id="p-need" v-model="form.water_need">
            <option v-for="n in ['very_low', 'low', 'moderate', 'high']" :key="n" :value="n">
              {{ t(`need.${n}`) }}
            </option>
          </select>
        </FormField>
        <FormField id="p-drought" :label="t('plants.drought')" :error="errors.drought_tolerance">
          <select id="p-drought" v-model="form.drought_tolerance">
            <option v-for="n in ['low', 'moderate', 'high']" :key="n" :value="n">{{ t(`tolerance.${n}`) }}</option>
          </select>
        </FormField>
        <FormField id="p-salt" :label="t('plants.salt')" :error="errors.salt_tolerance">
          <select id="p-salt" v-model="form.salt_tolerance">
            <option
              v-for="n in ['very_sensitive', 'sensitive', 'moderate', 'tolerant', 'very_tolerant']"
              :key="n"
              :value="n"
            >
              {{ t(`saltTolerance.${n}`) }}
            </option>
          </select>
        </FormField>
        <div class="field">
          <label class="check"><input v-model="form.evergreen" type="checkbox" />{{ t('plants.evergreen') }}</label>
        </div>
        <template v-if="!form.evergreen">
          <FormField id="p-out" :label="t('plants.leafOut')" :hint="t('plants.leafHint')" :error="errors.leaf_out">
            <input id="p-out" v-model="form.leaf_out" class="plain-input" maxlength="5" autocomplete="off" />
          </FormField>
          <FormField id="p-fall" :label="t('plants.leafFall')" :hint="t('plants.leafHint')" :error="errors.leaf_fall">
            <input id="p-fall" v-model="form.leaf_fall" class="plain-input" maxlength="5" autocomplete="off" />
          </FormField>
        </template>
        <FormField id="p-fruit" :label="t('plants.fruit')" :hint="t('plants.fruitHint')" :error="errors.fruit">
          <select id="p-fruit" v-model="form.fruit">
            <option v-for="n in ['none', 'small', 'heavy']" :key="n" :value="n">{{ t(`plants.fruits.${n}`) }}</option>
          </select>
        </FormField>
        <QuantityInput
          id="p-frost"
          v-model="form.frost_c"
          v-model:invalid="unreadable.frost_c"
          dimension="temperature"
          :label="t('plants.frost')"
          :hint="t('plants.frostHint')"
          :error="errors.frost_c"
        />
        <div class="field full pests" role="group" :aria-label="t('plants.pests')">
          <span class="label">{{ t('plants.pests') }}</span>
          <label v-for="p in PESTS" :key="p" class="check">
            <input v-model="form.pests" type="checkbox" :value="p" />{{ t(`pest.${p}`) }}
          </label>
        </div>
        <FormField id="p-source" class="wide" :label="t('plants.source')" :error="errors.source">
          <input id="p-source" v-model="form.source" class="plain-input" maxlength="200" autocomplete="off" />
        </FormField>
      </fieldset>
      <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
    </form>
  </PageFrame>
</template>

<style scoped>
.check {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  min-height: var(--tap);
}
.pests {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-5);
}
.pests .label {
  flex-basis: 100%;
}
.check input {
  width: 24px;
  height: 24px;
}
</style>
