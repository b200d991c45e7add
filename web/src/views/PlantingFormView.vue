<script setup lang="ts">
/** A batch that is to be planted: what comes, how many, where it goes. Everything else is worked out and can be changed. */
import { computed, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { api, newId, persist, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import FormActs from '@/components/common/FormActs.vue'
import PlantChoice from '@/components/trees/PlantChoice.vue'
import FormField from '@/components/common/FormField.vue'
import PouringFields from '@/components/trees/PouringFields.vue'
import StockFields from '@/components/trees/StockFields.vue'
import { useClock } from '@/composables/useClock'
import { useForm } from '@/composables/useForm'
import { useResource } from '@/composables/useResource'
import { useTreeChoices } from '@/composables/useTreeChoices'
import { MICROCLIMATES, SURROUNDS, VALVE_METHODS } from '@/logic/choices'
import { plantingBody, wayOf } from '@/logic/planting'
import { blankTree, formToTree } from '@/logic/treeForm'

const props = defineProps<{ id?: string }>()
const { t } = useI18n()
const route = useRoute()
const router = useRouter()
const { clock } = useClock()
const id = props.id ?? newId()
const { sites, plants, sizes, loading, error, load } = useTreeChoices()
const { data: known, error: gone } = useResource(async (signal) =>
  props.id
    ? take(api.GET('/api/plantings/{planting_id}', { params: { path: { planting_id: props.id } }, signal }))
    : null,
)
const { form, errors, unreadable, refused, other, busy, fill, save, discard } = useForm(props.id ?? 'new-planting', {
  ...blankTree(),
  kind: 'container' as Schema['TreeIn']['kind'],
  surround: 'turf' as Schema['TreeIn']['surround'],
  count: 6 as number | '',
  planned_on: '',
})
watch(known, (row) => {
  if (!row) return
  const body = plantingBody(row)
  fill({ ...body, stock_size_id: row.stock_size_id ?? '', version: row.version } as Partial<typeof form>)
})
watch(
  [sites, clock],
  () => {
    if (props.id) return
    const site = route.query.site ? String(route.query.site) : sites.value?.length === 1 ? sites.value[0]!.id : ''
    const q = (name: string) => (route.query[name] ? String(route.query[name]) : undefined)
    const after = { stop: q('stop'), tag: q('tag'), place: q('place'), plant_id: q('plant') }
    fill({
      site_id: site || form.site_id,
      planned_on: clock.value?.day ?? '',
      ...Object.fromEntries(Object.entries(after).filter(([, v]) => v)),
      ...(q('count') ? { count: Number(q('count')) } : {}),
    })
  },
  { immediate: true },
)
const title = computed(() => t(props.id ? 'planting.form.change' : 'planting.form.new'))
const site = computed(() => sites.value?.find((s) => s.id === form.site_id))
const stops = computed(() => site.value?.stops ?? [])
const body = (): Schema['PlantingIn'] => ({
  ...wayOf(formToTree(form, false, null)),
  site_id: form.site_id,
  stop: form.stop,
  planned_on: form.planned_on,
  plant_id: form.plant_id,
  stock_size_id: form.stock_size_id || null,
  kind: form.kind,
  caliper_m: form.caliper_m!,
  ball_diameter_m: form.ball_diameter_m!,
  ball_height_m: form.ball_height_m!,
  ball_volume_l: form.ball_volume_l,
  flare_below_top_m: known.value?.flare_below_top_m ?? 0,
  count: Number(form.count) || 0,
  tag: form.tag,
  place: form.place,
  microclimate: Number(form.microclimate),
  surround: form.surround,
  line: (VALVE_METHODS as readonly string[]).includes(form.method) ? form.line : '',
  note: known.value?.note ?? '',
  choice: known.value?.chosen ? known.value.figures.choice : null,
  version: form.version,
})
async function submit() {
  const required = [
    'site_id',
    'tag',
    'plant_id',
    'caliper_m',
    'ball_diameter_m',
    'ball_height_m',
    'planned_on',
  ] as const
  const write = () =>
    persist(() => api.PUT('/api/plantings/{planting_id}', { params: { path: { planting_id: id } }, body: body() }))
  if (await save([...required], write)) void router.push({ name: 'planting', params: { id } })
}
function cancel() {
  discard()
  router.back()
}
</script>

<template>
  <PageFrame :title="title" :error="error ?? gone" :loading="loading || Boolean(props.id && !known)" @retry="load">
    <form class="form" novalidate @submit.prevent="submit">
      <fieldset>
        <legend>{{ t('form.which') }}</legend>
        <FormField id="f-site" :label="t('form.site')" :error="errors.site_id">
          <select id="f-site" v-model="form.site_id" :disabled="Boolean(props.id)">
            <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select>
        </FormField>
        <FormField id="f-stop" :label="t('form.stop')" :error="errors.stop">
          <input id="f-stop" v-model="form.stop" class="plain-input" list="stops" maxlength="200" autocomplete="off" />
          <datalist id="stops"><option v-for="s in stops" :key="s.id" :value="s.name" /></datalist>
        </FormField>
        <FormField id="f-count" :label="t('planting.form.count')" :error="errors.count">
          <input id="f-count" v-model="form.count" class="plain-input" inputmode="numeric" autocomplete="off" />
        </FormField>
        <FormField id="f-day" :label="t('planting.form.day')" :error="errors.planned_on">
          <input id="f-day" v-model="form.planned_on" class="plain-input" type="date" />
        </FormField>
        <FormField id="f-plant" class="wide" :label="t('form.species')" :error="errors.plant_id">
          <PlantChoice id="f-plant" v-model="form.plant_id" :plants="plants ?? []" :label="t('form.species')" />
        </FormField>
        <FormField id="f-tag" :label="t('planting.form.tag')" :hint="t('planting.form.tagHint')" :error="errors.tag">
          <input id="f-tag" v-model="form.tag" class="plain-input" maxlength="80" autocomplete="off" />
        </FormField>
        <FormField
          id="f-place"
          class="wide"
          :label="t('planting.form.place')"
          :hint="t('form.placeRowHint', { nth: '{nth}' })"
          :error="errors.place"
        >
          <input id="f-place" v-model="form.place" class="plain-input" maxlength="200" autocomplete="off" />
        </FormField>
        <FormField id="f-surround" :label="t('form.surround')">
          <select id="f-surround" v-model="form.surround">
            <option v-for="s in SURROUNDS" :key="s" :value="s">{{ t(`surround.${s}`) }}</option>
          </select>
        </FormField>
        <FormField id="f-micro" :label="t('form.microclimate')">
          <select id="f-micro" v-model.number="form.microclimate">
            <option v-for="[word, value] in MICROCLIMATES" :key="word" :value="value">
              {{ t(`micro.${word}`) }}
            </option>
          </select>
        </FormField>
      </fieldset>
      <StockFields :fields="form" :errors="errors" :unreadable="unreadable" :sizes="sizes ?? []" :today="clock?.day" />
      <PouringFields
        :fields="form"
        :errors="errors"
        :unreadable="unreadable"
        :lines="site?.lines ?? []"
        :site="site"
        batch
      />
      <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
    </form>
  </PageFrame>
</template>
