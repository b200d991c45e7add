<script setup lang="ts">
/** Add or edit a weather station. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, missing, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import FormActs from '@/components/common/FormActs.vue'
import MonthlyFields from '@/components/weather/MonthlyFields.vue'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { useForm } from '@/composables/useForm'
import { useWrong } from '@/composables/useWrong'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ id?: string }>()
const { t } = useI18n()
const router = useRouter()
const { data, loading, error, load } = useResource(async (signal) => {
  const stations = await take(api.GET('/api/stations', { signal }))
  if (props.id && !stations.some((s) => s.id === props.id)) throw missing(props.id)
  return stations
})
const say = useWrong()
const monthsUnread = ref(false)
const first = computed(() => !props.id && data.value?.length === 0)
const own = computed(() => data.value?.find((s) => s.id === props.id) ?? null)
const blank = {
  name: '',
  latitude_deg: '' as number | '',
  longitude_deg: '' as number | '',
  elevation_m: null as number | null,
  wind_height_m: 2 as number | null,
  months: Array<number | null>(12).fill(null),
  version: null as number | null,
}
const { form, errors, unreadable, refused, other, busy, fill, save, discard } = useForm(
  props.id ?? 'new-station',
  blank,
)
watch(own, (s) => {
  if (!s) return
  fill({
    name: s.name,
    latitude_deg: s.latitude_deg,
    longitude_deg: s.longitude_deg,
    elevation_m: s.elevation_m,
    wind_height_m: s.wind_height_m,
    version: s.version ?? null,
    months: s.monthly_eto_mm ?? Array<number | null>(12).fill(null),
  })
})
/** All twelve or none: a year with a hole is no year. */
const given = computed(() => form.months.filter((v) => v !== null).length)
const holes = ref<Record<number, string>>({})
async function submit() {
  const bad = given.value > 0 && given.value < 12
  holes.value = Object.fromEntries(
    bad ? form.months.flatMap((v, i) => (v === null ? [[i, t('form.required')]] : [])) : [],
  )
  const body = {
    name: form.name,
    latitude_deg: form.latitude_deg,
    longitude_deg: form.longitude_deg,
    elevation_m: form.elevation_m,
    wind_height_m: form.wind_height_m,
    monthly_eto_mm: given.value === 12 ? form.months : null,
    version: form.version,
  } as Schema['StationIn']
  let made = ''
  let forecasts = false
  const send = async () => {
    const stored = await take(
      props.id
        ? api.PUT('/api/stations/{station_id}', { params: { path: { station_id: props.id } }, body })
        : api.POST('/api/stations', { body }),
    )
    made = stored.id
    forecasts = stored.forecast_available
  }
  unreadable.months = bad || monthsUnread.value
  const done = await save(['name', 'latitude_deg', 'longitude_deg', 'elevation_m', 'wind_height_m'], send)
  if (!done) return
  if (first.value && forecasts)
    await take(api.POST('/api/stations/{station_id}/forecast', { params: { path: { station_id: made } } })).catch(
      () => null,
    )
  void router.push({ name: first.value ? 'today' : 'weather' })
}
function cancel() {
  discard()
  router.back()
}
</script>

<template>
  <PageFrame
    :title="props.id ? t('weather.editStation') : t('weather.add')"
    :error="error"
    :loading="loading && !data"
    @retry="load"
  >
    <form class="form" novalidate @submit.prevent="submit">
      <fieldset>
        <legend>{{ t('sites.place') }}</legend>
        <FormField id="w-name" class="wide" :label="t('sites.name')" :error="errors.name">
          <input id="w-name" v-model="form.name" class="plain-input" maxlength="80" autocomplete="off" />
        </FormField>
        <FormField id="w-lat" :label="t('sites.latitude')" :hint="t('sites.degrees')" :error="errors.latitude_deg">
          <input id="w-lat" v-model="form.latitude_deg" class="plain-input" inputmode="decimal" autocomplete="off" />
        </FormField>
        <FormField id="w-lon" :label="t('sites.longitude')" :error="errors.longitude_deg">
          <input id="w-lon" v-model="form.longitude_deg" class="plain-input" inputmode="decimal" autocomplete="off" />
        </FormField>
        <QuantityInput
          id="w-elevation"
          v-model="form.elevation_m"
          v-model:invalid="unreadable.elevation_m"
          dimension="large"
          :digits="0"
          :label="t('sites.elevation')"
          :error="errors.elevation_m"
          required
        />
        <QuantityInput
          id="w-wind"
          v-model="form.wind_height_m"
          v-model:invalid="unreadable.wind_height_m"
          dimension="large"
          :label="t('weather.windHeight')"
          :error="errors.wind_height_m"
          required
        />
        <MonthlyFields v-model="form.months" v-model:invalid="monthsUnread" :errors="holes" />
        <p v-if="errors.monthly_eto_mm" class="warn full">{{ say(errors.monthly_eto_mm, 'rain') }}</p>
      </fieldset>
      <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
    </form>
  </PageFrame>
</template>
