<script setup lang="ts">
/** Add or edit a site. */
import { computed, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, missing, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import BucketTimer from '@/components/site/BucketTimer.vue'
import FormActs from '@/components/common/FormActs.vue'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import WeekdayBoxes from '@/components/common/WeekdayBoxes.vue'
import { useForm } from '@/composables/useForm'
import { useResource } from '@/composables/useResource'
import { TEXTURES, WATER_SOURCES } from '@/logic/choices'
import { isUs, text } from '@/units'

const props = defineProps<{ id?: string }>()
const { t } = useI18n()
const router = useRouter()
const BUCKET_L = 18.927
const { data, loading, error, load } = useResource(async (signal) => {
  const [sites, stations] = await Promise.all([
    take(api.GET('/api/sites', { signal })),
    take(api.GET('/api/stations', { signal })),
  ])
  const site = sites.find((s) => s.id === props.id) ?? null
  if (props.id && !site) throw missing(props.id)
  return { site, stations, any: sites.length > 0 }
})
const blank = {
  name: '',
  timezone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  latitude_deg: '' as number | '',
  longitude_deg: '' as number | '',
  elevation_m: null as number | null,
  climate: 'dry' as Schema['SiteIn']['climate'],
  texture: '' as Schema['SiteIn']['texture'] | '',
  root_depth_max_m: 0.6 as number | null,
  hose_flow_l_per_h: null as number | null,
  pour_step_l: 0,
  tank_l: null as number | null,
  crew_hours: '' as number | '',
  working_days: [0, 1, 2, 3, 4, 5, 6],
  water_price_per_m3: '' as number | '',
  hour_price: '' as number | '',
  mode: 'grow' as NonNullable<Schema['SiteIn']['mode']>,
  water_source: 'potable' as NonNullable<Schema['SiteIn']['water_source']>,
  water_ec_ds_m: '' as number | '',
  water_sar: '' as number | '',
  tank_flow_l_per_h: null as number | null,
  station_id: '',
  traffic: false,
  crew_id: '',
  house_number: '' as number | '',
  version: null as number | null,
}
const { form, errors, unreadable, refused, other, busy, fill, save, discard } = useForm(props.id ?? 'new-site', blank)
const { data: crews } = useResource((signal) => take(api.GET('/api/crews', { signal })))
const zones = Intl.supportedValuesOf('timeZone')
watch(data, (got) => {
  if (got?.site) {
    const s = got.site
    fill({
      ...(Object.fromEntries(Object.keys(blank).map((k) => [k, s[k as keyof typeof s]])) as typeof blank),
      station_id: s.station_id ?? '',
      crew_id: s.crew_id ?? '',
      house_number: s.house_number ?? '',
      water_ec_ds_m: s.water_ec_ds_m ?? '',
      water_sar: s.water_sar ?? '',
    })
  } else if (got?.stations.length === 1) fill({ station_id: got.stations[0]!.id })
})
const title = computed(() => (props.id ? t('sites.edit', { name: data.value?.site?.name ?? '' }) : t('sites.add')))
async function submit() {
  const number = (typed: number | '' | null) => (typed === '' || typed === null ? null : Number(typed))
  const body = {
    ...form,
    crew_hours: number(form.crew_hours),
    water_ec_ds_m: number(form.water_ec_ds_m),
    water_sar: number(form.water_sar),
    water_price_per_m3: number(form.water_price_per_m3),
    hour_price: number(form.hour_price),
    station_id: form.station_id || null,
    crew_id: form.crew_id || null,
    house_number: number(form.house_number),
  } as Schema['SiteIn']
  const done = await save(
    [
      'name',
      'timezone',
      'latitude_deg',
      'longitude_deg',
      'elevation_m',
      'texture',
      'root_depth_max_m',
      'hose_flow_l_per_h',
    ],
    () =>
      take(
        props.id
          ? api.PUT('/api/sites/{site_id}', { params: { path: { site_id: props.id } }, body })
          : api.POST('/api/sites', { body }),
      ),
  )
  if (done) void router.push({ name: props.id || data.value?.any ? 'sites' : 'today' })
}
function cancel() {
  discard()
  router.back()
}
/** What amounts are rounded to where no bucket is named. */
const usualStep = computed(() => (isUs.value ? 3.785411784 / 2 : 1))
</script>

<template>
  <PageFrame :title="title" :error="error" :loading="loading && !data" @retry="load">
    <form class="form" novalidate @submit.prevent="submit">
      <fieldset>
        <legend>{{ t('sites.place') }}</legend>
        <FormField id="s-name" class="wide" :label="t('sites.name')" :error="errors.name">
          <input id="s-name" v-model="form.name" class="plain-input" maxlength="80" autocomplete="off" />
        </FormField>
        <FormField id="s-zone" :label="t('sites.zone')" :error="errors.timezone">
          <input id="s-zone" v-model="form.timezone" class="plain-input" list="zones" autocomplete="off" />
          <datalist id="zones"><option v-for="z in zones" :key="z" :value="z" /></datalist>
        </FormField>
        <FormField id="s-lat" :label="t('sites.latitude')" :hint="t('sites.degrees')" :error="errors.latitude_deg">
          <input id="s-lat" v-model="form.latitude_deg" class="plain-input" inputmode="decimal" autocomplete="off" />
        </FormField>
        <FormField id="s-lon" :label="t('sites.longitude')" :error="errors.longitude_deg">
          <input id="s-lon" v-model="form.longitude_deg" class="plain-input" inputmode="decimal" autocomplete="off" />
        </FormField>
        <QuantityInput
          id="s-elevation"
          v-model="form.elevation_m"
          v-model:invalid="unreadable.elevation_m"
          dimension="large"
          :digits="0"
          :label="t('sites.elevation')"
          :error="errors.elevation_m"
          required
        />
      </fieldset>
      <fieldset>
        <legend>{{ t('sites.soil') }}</legend>
        <FormField id="s-texture" :label="t('sites.soil')" :error="errors.texture">
          <select id="s-texture" v-model="form.texture">
            <option v-for="x in TEXTURES" :key="x" :value="x">{{ t(`texture.${x}`) }}</option>
          </select>
        </FormField>
        <QuantityInput
          id="s-depth"
          v-model="form.root_depth_max_m"
          v-model:invalid="unreadable.root_depth_max_m"
          dimension="small"
          :label="t('sites.depth')"
          :hint="t('sites.depthHint')"
          :error="errors.root_depth_max_m"
          required
        />
      </fieldset>
      <fieldset>
        <legend>{{ t('sites.supply') }}</legend>
        <QuantityInput
          id="s-flow"
          v-model="form.hose_flow_l_per_h"
          v-model:invalid="unreadable.hose_flow_l_per_h"
          dimension="flow"
          :label="t('sites.flow')"
          :hint="t(isUs ? 'sites.flowHint' : 'sites.flowHintMetric')"
          :error="errors.hose_flow_l_per_h"
          required
        />
        <BucketTimer @flow="(f) => (form.hose_flow_l_per_h = f)" />
        <QuantityInput
          id="s-tank-flow"
          v-model="form.tank_flow_l_per_h"
          v-model:invalid="unreadable.tank_flow_l_per_h"
          dimension="flow"
          :label="t('sites.tankFlow')"
          :hint="t('sites.tankFlowHint')"
          :error="errors.tank_flow_l_per_h"
        />
        <FormField id="s-source" :label="t('sites.waterSource')" :error="errors.water_source">
          <select id="s-source" v-model="form.water_source">
            <option v-for="x in WATER_SOURCES" :key="x" :value="x">{{ t(`source.${x}`) }}</option>
          </select>
        </FormField>
        <FormField id="s-ec" :label="t('sites.ec')" :hint="t('sites.ecHint')" :error="errors.water_ec_ds_m">
          <div class="typed">
            <input id="s-ec" v-model="form.water_ec_ds_m" inputmode="decimal" autocomplete="off" />
            <span class="unit">{{ t('sites.ecUnit') }}</span>
          </div>
        </FormField>
        <FormField id="s-sar" :label="t('sites.sar')" :hint="t('common.optional')" :error="errors.water_sar">
          <input id="s-sar" v-model="form.water_sar" class="plain-input" inputmode="decimal" autocomplete="off" />
        </FormField>
        <FormField id="s-step" :label="t('sites.step')" :error="errors.pour_step_l">
          <select id="s-step" v-model.number="form.pour_step_l">
            <option :value="0">{{ t('sites.stepAuto', { step: text('volume', usualStep) }) }}</option>
            <option :value="BUCKET_L">{{ t('sites.stepBucket', { size: text('volume', BUCKET_L, 0) }) }}</option>
          </select>
        </FormField>
      </fieldset>
      <fieldset>
        <legend>{{ t('sites.crew') }}</legend>
        <FormField id="s-crew" :label="t('sites.whichCrew')" :hint="t('sites.whichCrewHint')" :error="errors.crew_id">
          <select id="s-crew" v-model="form.crew_id">
            <option value="">{{ t('sites.ownCrew') }}</option>
            <option v-for="c in crews ?? []" :key="c.id" :value="c.id">{{ c.name }}</option>
          </select>
        </FormField>
        <FormField
          id="s-house"
          :label="t('sites.houseNumber')"
          :hint="t('sites.houseNumberHint')"
          :error="errors.house_number"
        >
          <input id="s-house" v-model="form.house_number" class="plain-input" inputmode="numeric" autocomplete="off" />
        </FormField>
        <QuantityInput
          id="s-tank"
          v-model="form.tank_l"
          v-model:invalid="unreadable.tank_l"
          dimension="volume"
          :label="t('sites.tank')"
          :hint="t('sites.tankHint')"
          :error="errors.tank_l"
        />
        <FormField id="s-hours" :label="t('sites.hours')" :error="errors.crew_hours">
          <input id="s-hours" v-model="form.crew_hours" class="plain-input" inputmode="decimal" autocomplete="off" />
        </FormField>
        <FormField id="s-water-price" :label="t('sites.waterPrice')" :error="errors.water_price_per_m3">
          <input
            id="s-water-price"
            v-model="form.water_price_per_m3"
            class="plain-input"
            inputmode="decimal"
            autocomplete="off"
          />
        </FormField>
        <FormField id="s-hour-price" :label="t('sites.hourPrice')" :error="errors.hour_price">
          <input
            id="s-hour-price"
            v-model="form.hour_price"
            class="plain-input"
            inputmode="decimal"
            autocomplete="off"
          />
        </FormField>
        <WeekdayBoxes v-model="form.working_days" :label="t('sites.workingDays')" named>
          <p v-if="errors.working_days" class="warn">{{ t('form.required') }}</p>
        </WeekdayBoxes>
        <div class="field full">
          <label class="day"><input v-model="form.traffic" type="checkbox" />{{ t('sites.traffic') }}</label>
          <p class="hint">{{ t('sites.trafficHint') }}</p>
        </div>
      </fieldset>
      <fieldset>
        <legend>{{ t('sites.station') }}</legend>
        <FormField id="s-station" class="wide" :label="t('sites.station')" :error="errors.station_id">
          <select id="s-station" v-model="form.station_id">
            <option value="">{{ t('sites.noStation') }}</option>
            <option v-for="x in data?.stations ?? []" :key="x.id" :value="x.id">{{ x.name }}</option>
          </select>
        </FormField>
        <FormField id="s-climate" :label="t('sites.climate')" :error="errors.climate">
          <select id="s-climate" v-model="form.climate">
            <option value="dry">{{ t('sites.dry') }}</option>
            <option value="humid">{{ t('sites.humid') }}</option>
          </select>
        </FormField>
      </fieldset>
      <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
    </form>
  </PageFrame>
</template>

<style scoped>
.days {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-5);
  align-items: center;
}
.days .label {
  flex-basis: 100%;
}
.day {
  display: flex;
  gap: var(--space-2);
  align-items: center;
  min-height: var(--tap);
}
.day input {
  width: 24px;
  height: 24px;
}
</style>
