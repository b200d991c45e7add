<script setup lang="ts">
/** Add or edit a tree: which, its ball, how it is poured, what lies around it. */
import { useTitle } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, newId, persist, take, type Schema } from '@/api/client'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import FormActs from '@/components/common/FormActs.vue'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import { useClock } from '@/composables/useClock'
import { useForm } from '@/composables/useForm'
import { useResource } from '@/composables/useResource'
import { useTreeChoices } from '@/composables/useTreeChoices'
import { text } from '@/units'

const props = defineProps<{ id?: string }>()
const { t } = useI18n()
const router = useRouter()
const { clock } = useClock()
const id = props.id ?? newId()
const { sites, plants, sizes, loading, error, load } = useTreeChoices()
const { data: tree } = useResource(async (signal) =>
  props.id ? take(api.GET('/api/trees/{tree_id}', { params: { path: { tree_id: props.id } }, signal })) : null,
)

const blank = {
  site_id: '',
  tag: '',
  place: '',
  side: '',
  stop: '',
  line: '',
  latitude_deg: '' as number | '',
  longitude_deg: '' as number | '',
  row_place: 0,
  version: null as number | null,
  count: 1 as number | '',
  spacing_m: null as number | null,
  bearing_deg: 90,
  plant_id: '',
  stock_size_id: '',
  kind: 'balled' as Schema['TreeIn']['kind'],
  caliper_m: null as number | null,
  ball_diameter_m: null as number | null,
  ball_height_m: null as number | null,
  ball_volume_l: null as number | null,
  crown_diameter_m: null as number | null,
  planted_on: '',
  feel_ball: '',
  feel_ring: '',
  bud_break_on: '',
  microclimate: 1,
  surround: 'bare' as Schema['TreeIn']['surround'],
  method: 'hose' as Schema['TreeIn']['method'],
  basin_diameter_m: 0.9 as number | null,
  basin_depth_m: 0.08 as number | null,
  emitter_count: 4,
  emitter_flow_l_per_h: 4 as number | null,
  bag_capacity_l: 75 as number | null,
  mulch_material: '',
  mulch_depth_m: 0.075 as number | null,
  mulch_outer_radius_m: 0.75 as number | null,
  mulch_measured_on: '',
}
const { form, errors, unreadable, refused, other, busy, fill, save, discard } = useForm(props.id ?? 'new-tree', blank)

watch(
  tree,
  (row) => {
    if (!row) return
    const words = Object.fromEntries(
      Object.keys(blank).flatMap((k) => (k in row ? [[k, row[k as keyof typeof row] ?? '']] : [])),
    )
    const numbers = Object.fromEntries(
      Object.entries(blank).flatMap(([k, v]) =>
        k.match(/_(m|l|l_per_h)$/) && k in row ? [[k, row[k as keyof typeof row] ?? null]] : [[k, v]],
      ),
    )
    fill({
      ...blank,
      ...numbers,
      ...Object.fromEntries(Object.entries(words).filter(([k]) => !k.match(/_(m|l|l_per_h)$/))),
      plant_id: row.plant.id,
      stop: row.stop ?? '',
      line: row.line ?? '',
      emitter_count: row.emitter_count || blank.emitter_count,
      emitter_flow_l_per_h: row.emitter_flow_l_per_h || blank.emitter_flow_l_per_h,
    } as typeof blank)
  },
  { immediate: true },
)
watch([sites, clock], () => {
  if (props.id) return
  fill({ site_id: sites.value?.length === 1 ? sites.value[0]!.id : form.site_id, planted_on: clock.value?.day ?? '' })
})
const title = computed(() => (props.id ? t('form.editTitle', { tag: tree.value?.tag ?? '' }) : t('form.addTitle')))
useTitle(computed(() => `${title.value} · ${t('app.name')}`))

const kindSizes = computed(() => (sizes.value ?? []).filter((s) => s.kind === form.kind))
const stops = computed(() => sites.value?.find((s) => s.id === form.site_id)?.stops ?? [])
const inRow = computed(() => !props.id && Number(form.count) !== 1)
const BEARINGS = [0, 45, 90, 135, 180, 225, 270, 315]
const lines = computed(() => sites.value?.find((s) => s.id === form.site_id)?.lines ?? [])
const size = computed(() => sizes.value?.find((s) => s.id === form.stock_size_id))
const sizeHint = computed(() => {
  const s = size.value
  if (!s) return t('form.sizeHint')
  return s.volume_l_low && s.volume_l_high
    ? t('form.sizeHolds', { low: text('volume', s.volume_l_low, 0), high: text('volume', s.volume_l_high, 0) })
    : t('form.sizeHint')
})
function takeSize(chosen: string) {
  form.stock_size_id = chosen
  const s = sizes.value?.find((one) => one.id === chosen)
  if (s)
    Object.assign(form, { caliper_m: s.caliper_m, ball_diameter_m: s.ball_diameter_m, ball_height_m: s.ball_height_m })
}
function takeKind(kind: string) {
  form.kind = kind as typeof form.kind
  if (size.value && size.value.kind !== kind) form.stock_size_id = ''
}
const bare = computed(() => form.kind === 'bare_root')
const standing = computed(() => Boolean(clock.value && form.planted_on && form.planted_on < clock.value.day))
/** A feel of today opens the record anew today, whatever the tree's record said before. */
const asksFeel = standing
const poured = computed(() => form.method === 'hose' || form.method === 'bucket')
const filter = ref('')
const shownPlants = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/)
  return (plants.value ?? []).filter((p) => words.every((w) => `${p.common} ${p.botanical}`.toLowerCase().includes(w)))
})

function body(): Schema['TreeIn'] {
  const mulched = Boolean(form.mulch_material)
  const feel =
    asksFeel.value && form.feel_ball && form.feel_ring ? { ball: form.feel_ball, ring: form.feel_ring } : null
  return {
    site_id: form.site_id,
    tag: form.tag,
    place: form.place,
    side: form.side,
    stop: form.stop || null,
    line: form.line || null,
    latitude_deg: form.latitude_deg === '' ? null : Number(form.latitude_deg),
    longitude_deg: form.longitude_deg === '' ? null : Number(form.longitude_deg),
    version: form.version,
    row_place: Number(form.row_place) || 0,
    plant_id: form.plant_id,
    stock_size_id: form.stock_size_id || null,
    kind: form.kind,
    caliper_m: form.caliper_m!,
    ball_diameter_m: form.ball_diameter_m!,
    ball_height_m: form.ball_height_m!,
    ball_volume_l: form.ball_volume_l,
    crown_diameter_m: form.crown_diameter_m,
    planted_on: form.planted_on,
    feel: feel as Schema['TreeIn']['feel'],
    bud_break_on: bare.value && form.bud_break_on ? form.bud_break_on : null,
    microclimate: Number(form.microclimate),
    surround: form.surround,
    method: form.method,
    basin_diameter_m: form.basin_diameter_m,
    basin_depth_m: form.basin_depth_m,
    emitter_count: form.method === 'emitters' ? Number(form.emitter_count) : 0,
    emitter_flow_l_per_h: form.method === 'emitters' ? (form.emitter_flow_l_per_h ?? 0) : 0,
    bag_capacity_l: form.bag_capacity_l ?? 75,
    mulch_material: (form.mulch_material || null) as Schema['TreeIn']['mulch_material'],
    mulch_depth_m: mulched ? (form.mulch_depth_m ?? 0) : 0,
    mulch_outer_radius_m: mulched ? form.mulch_outer_radius_m : null,
    mulch_measured_on: mulched ? form.mulch_measured_on || clock.value?.day || null : null,
  }
}
async function submit() {
  const required = [
    'site_id',
    'tag',
    'plant_id',
    'caliper_m',
    'ball_diameter_m',
    'ball_height_m',
    'planted_on',
  ] as const
  const one = () => persist(() => api.PUT('/api/trees/{tree_id}', { params: { path: { tree_id: id } }, body: body() }))
  const row = () =>
    persist(() =>
      api.PUT('/api/tree-rows/{row_id}', {
        params: { path: { row_id: id } },
        body: {
          first: body(),
          count: Number(form.count),
          spacing_m: form.spacing_m,
          bearing_deg: Number(form.bearing_deg),
        },
      }),
    )
  if (!(await save([...required], inRow.value ? row : one))) return
  if (inRow.value) void router.push({ name: 'trees', query: { site: form.site_id, q: form.stop || undefined } })
  else void router.push({ name: 'tree-water', params: { id } })
}
function cancel() {
  discard()
  router.back()
}
</script>

<template>
  <div class="page">
    <header>
      <h1>{{ title }}</h1>
    </header>
    <StatePanel
      :error="error"
      :loading="loading || Boolean(id === props.id && !tree)"
      :empty="sites?.length === 0"
      @retry="load"
    >
      <template #empty>
        <EmptyPlace :title="t('form.noSites')" :words="t('form.noSitesWords')">
          <RouterLink class="button main" :to="{ name: 'site-new' }">{{ t('sites.add') }}</RouterLink>
        </EmptyPlace>
      </template>
      <form class="form" novalidate @submit.prevent="submit">
        <fieldset>
          <legend>{{ t('form.which') }}</legend>
          <FormField id="f-site" :label="t('form.site')" :error="errors.site_id">
            <select id="f-site" v-model="form.site_id" :disabled="Boolean(props.id)">
              <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
            </select>
          </FormField>
          <FormField id="f-tag" :label="t('form.tag')" :error="errors.tag">
            <input id="f-tag" v-model="form.tag" class="plain-input" maxlength="80" autocomplete="off" />
          </FormField>
          <FormField
            id="f-place"
            class="wide"
            :label="t('form.place')"
            :hint="t(inRow ? 'form.placeRowHint' : 'form.placeHint', { nth: '{nth}' })"
            :error="errors.place"
          >
            <input id="f-place" v-model="form.place" class="plain-input" maxlength="200" autocomplete="off" />
          </FormField>
          <FormField id="f-side" :label="t('form.side')" :error="errors.side">
            <input id="f-side" v-model="form.side" class="plain-input" maxlength="200" autocomplete="off" />
          </FormField>
          <FormField id="f-stop" :label="t('form.stop')" :error="errors.stop">
            <input
              id="f-stop"
              v-model="form.stop"
              class="plain-input"
              list="stops"
              maxlength="200"
              autocomplete="off"
            />
            <datalist id="stops"><option v-for="s in stops" :key="s.id" :value="s.name" /></datalist>
          </FormField>
          <FormField id="f-plant" class="wide" :label="t('form.species')" :error="errors.plant_id">
            <el-select
              id="f-plant"
              v-model="form.plant_id"
              filterable
              :filter-method="(w: string) => (filter = w)"
              :aria-label="t('form.species')"
              :placeholder="t('common.choose')"
              :no-match-text="t('trees.noneFound')"
              @visible-change="filter = ''"
            >
              <el-option v-for="p in shownPlants" :key="p.id" :value="p.id" :label="`${p.common}, ${p.botanical}`" />
            </el-select>
          </FormField>
          <FormField v-if="!props.id" id="f-count" :label="t('form.count')" :error="errors.count">
            <input id="f-count" v-model="form.count" class="plain-input" inputmode="numeric" autocomplete="off" />
          </FormField>
          <template v-if="inRow">
            <QuantityInput
              id="f-spacing"
              v-model="form.spacing_m"
              v-model:invalid="unreadable.spacing_m"
              dimension="large"
              :label="t('form.spacing')"
              :hint="t('form.spacingHint')"
              :error="errors.spacing_m"
            />
            <FormField id="f-bearing" :label="t('form.bearing')">
              <select id="f-bearing" v-model.number="form.bearing_deg">
                <option v-for="b in BEARINGS" :key="b" :value="b">{{ t(`bearing.${b}`) }}</option>
              </select>
            </FormField>
          </template>
          <FormField id="f-lat" :label="t('form.latitude')" :hint="t('form.ifKnown')" :error="errors.latitude_deg">
            <input id="f-lat" v-model="form.latitude_deg" class="plain-input" inputmode="decimal" autocomplete="off" />
          </FormField>
          <FormField id="f-lon" :label="t('form.longitude')" :hint="t('form.ifKnown')" :error="errors.longitude_deg">
            <input id="f-lon" v-model="form.longitude_deg" class="plain-input" inputmode="decimal" autocomplete="off" />
          </FormField>
          <FormField id="f-planted" :label="t('form.planted')" :error="errors.planted_on">
            <input id="f-planted" v-model="form.planted_on" class="plain-input" type="date" :max="clock?.day" />
          </FormField>
        </fieldset>
        <fieldset>
          <legend>{{ t('form.stock') }}</legend>
          <FormField id="f-kind" :label="t('form.kind')">
            <select id="f-kind" :value="form.kind" @change="takeKind(($event.target as HTMLSelectElement).value)">
              <option v-for="k in ['balled', 'container', 'bare_root']" :key="k" :value="k">
                {{ t(`kind.${k}`) }}
              </option>
            </select>
          </FormField>
          <FormField id="f-size" class="wide" :label="t('form.size')" :hint="sizeHint">
            <select
              id="f-size"
              :value="form.stock_size_id"
              @change="takeSize(($event.target as HTMLSelectElement).value)"
            >
              <option value="">{{ t('common.none') }}</option>
              <option v-for="s in kindSizes" :key="s.id" :value="s.id">{{ s.label }}</option>
            </select>
          </FormField>
          <QuantityInput
            id="f-caliper"
            v-model="form.caliper_m"
            v-model:invalid="unreadable.caliper_m"
            dimension="small"
            :label="t('form.caliper')"
            :error="errors.caliper_m"
            required
          />
          <QuantityInput
            id="f-ball"
            v-model="form.ball_diameter_m"
            v-model:invalid="unreadable.ball_diameter_m"
            dimension="small"
            :label="bare ? t('form.spread') : t('form.ballAcross')"
            :error="errors.ball_diameter_m"
            required
          />
          <QuantityInput
            id="f-height"
            v-model="form.ball_height_m"
            v-model:invalid="unreadable.ball_height_m"
            dimension="small"
            :label="bare ? t('form.rootDepth') : t('form.ballHeight')"
            :error="errors.ball_height_m"
            required
          />
          <QuantityInput
            v-if="!bare"
            id="f-volume"
            v-model="form.ball_volume_l"
            v-model:invalid="unreadable.ball_volume_l"
            dimension="volume"
            :label="t('form.volume')"
            :hint="t('form.volumeHint')"
            :error="errors.ball_volume_l"
          />
          <QuantityInput
            id="f-crown"
            v-model="form.crown_diameter_m"
            v-model:invalid="unreadable.crown_diameter_m"
            dimension="large"
            :label="t('form.crown')"
            :hint="t('form.crownHint')"
            :error="errors.crown_diameter_m"
          />
          <FormField v-if="bare" id="f-bud" :label="t('form.budBreak')" :error="errors.bud_break_on">
            <input id="f-bud" v-model="form.bud_break_on" class="plain-input" type="date" :max="clock?.day" />
          </FormField>
        </fieldset>
        <fieldset v-if="asksFeel" id="feel">
          <legend>{{ t('form.feel') }}</legend>
          <p class="full quiet">{{ t('form.feelHint') }}</p>
          <FormField
            v-for="w in ['ball', 'ring'] as const"
            :id="`f-feel-${w}`"
            :key="w"
            :label="t(w === 'ball' ? 'form.feelBall' : 'form.feelRing')"
          >
            <select :id="`f-feel-${w}`" v-model="form[`feel_${w}`]">
              <option value="">{{ t('form.feelNone') }}</option>
              <option v-for="f in ['wet', 'moist', 'drying', 'dry']" :key="f" :value="f">{{ t(`feel.${f}`) }}</option>
            </select>
          </FormField>
        </fieldset>
        <fieldset>
          <legend>{{ t('form.pouring') }}</legend>
          <FormField id="f-line" :label="t('form.line')" :hint="t('form.lineHint')" :error="errors.line">
            <input
              id="f-line"
              v-model="form.line"
              class="plain-input"
              list="lines"
              maxlength="200"
              autocomplete="off"
            />
            <datalist id="lines"><option v-for="x in lines" :key="x" :value="x" /></datalist>
          </FormField>
          <FormField id="f-method" :label="t('form.method')">
            <select id="f-method" v-model="form.method">
              <option v-for="m in ['hose', 'bucket', 'bag', 'emitters']" :key="m" :value="m">
                {{ t(`method.${m}`) }}
              </option>
            </select>
          </FormField>
          <QuantityInput
            id="f-basin"
            v-model="form.basin_diameter_m"
            v-model:invalid="unreadable.basin_diameter_m"
            dimension="large"
            :label="t('form.basin')"
            :hint="t('form.basinHint')"
            :error="errors.basin_diameter_m"
          />
          <QuantityInput
            v-if="poured"
            id="f-rim"
            v-model="form.basin_depth_m"
            v-model:invalid="unreadable.basin_depth_m"
            dimension="small"
            :label="t('form.basinDepth')"
            :error="errors.basin_depth_m"
          />
          <template v-if="form.method === 'emitters'">
            <FormField id="f-emitters" :label="t('form.emitters')" :error="errors.emitter_count">
              <input id="f-emitters" v-model.number="form.emitter_count" class="plain-input" inputmode="numeric" />
            </FormField>
            <QuantityInput
              id="f-flow"
              v-model="form.emitter_flow_l_per_h"
              v-model:invalid="unreadable.emitter_flow_l_per_h"
              dimension="flow"
              :label="t('form.emitterFlow')"
              :error="errors.emitter_flow_l_per_h"
            />
          </template>
          <QuantityInput
            v-if="form.method === 'bag'"
            id="f-bag"
            v-model="form.bag_capacity_l"
            v-model:invalid="unreadable.bag_capacity_l"
            dimension="volume"
            :label="t('form.bag')"
            :error="errors.bag_capacity_l"
          />
        </fieldset>
        <fieldset>
          <legend>{{ t('form.around') }}</legend>
          <FormField id="f-surround" :label="t('form.surround')">
            <select id="f-surround" v-model="form.surround">
              <option v-for="s in ['bare', 'turf', 'paved']" :key="s" :value="s">{{ t(`surround.${s}`) }}</option>
            </select>
          </FormField>
          <FormField id="f-micro" :label="t('form.microclimate')">
            <select id="f-micro" v-model.number="form.microclimate">
              <option v-for="m in [0.7, 1, 1.2, 1.4]" :key="m" :value="m">
                {{ t(`micro.${String(m).replace('.', '_')}`) }}
              </option>
            </select>
          </FormField>
          <FormField id="f-mulch" :label="t('form.mulchMaterial')" :error="errors.mulch_material">
            <select id="f-mulch" v-model="form.mulch_material">
              <option value="">{{ t('cutaway.no_mulch') }}</option>
              <option
                v-for="m in ['wood_chips', 'bark', 'straw', 'leaves', 'pine_needles', 'seaweed', 'compost', 'gravel']"
                :key="m"
                :value="m"
              >
                {{ t(`material.${m}`) }}
              </option>
            </select>
          </FormField>
          <template v-if="form.mulch_material">
            <QuantityInput
              id="f-mulch-depth"
              v-model="form.mulch_depth_m"
              v-model:invalid="unreadable.mulch_depth_m"
              dimension="small"
              :label="t('form.mulchDepth')"
              :error="errors.mulch_depth_m"
            />
            <QuantityInput
              id="f-mulch-radius"
              v-model="form.mulch_outer_radius_m"
              v-model:invalid="unreadable.mulch_outer_radius_m"
              dimension="large"
              :label="t('form.mulchRadius')"
              :error="errors.mulch_outer_radius_m"
            />
            <FormField id="f-mulch-on" :label="t('form.mulchOn')" :error="errors.mulch_measured_on">
              <input
                id="f-mulch-on"
                v-model="form.mulch_measured_on"
                class="plain-input"
                type="date"
                :max="clock?.day"
              />
            </FormField>
          </template>
        </fieldset>
        <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
      </form>
    </StatePanel>
  </div>
</template>
