<script setup lang="ts">
/** Add or edit a tree: which, its ball, how it is poured, what lies around it. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, newId, persist, take } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import FormActs from '@/components/common/FormActs.vue'
import PlantChoice from '@/components/trees/PlantChoice.vue'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import EndDialog from '@/components/trees/EndDialog.vue'
import AroundFields from '@/components/trees/AroundFields.vue'
import PouringFields from '@/components/trees/PouringFields.vue'
import StockFields from '@/components/trees/StockFields.vue'
import { useClock } from '@/composables/useClock'
import { useForm } from '@/composables/useForm'
import { useResource } from '@/composables/useResource'
import { useTreeChoices } from '@/composables/useTreeChoices'
import { TREE_FIELDS, type TreeFieldName } from '@/logic/treeFields'
import { blankTree, formToTree, treeToForm } from '@/logic/treeForm'

const props = defineProps<{ id?: string }>()
const { t } = useI18n()
const router = useRouter()
const { clock } = useClock()
const id = props.id ?? newId()
const { sites, plants, sizes, loading, error, load } = useTreeChoices()
const { data: tree, error: gone } = useResource(async (signal) =>
  props.id ? take(api.GET('/api/trees/{tree_id}', { params: { path: { tree_id: props.id } }, signal })) : null,
)

const { form, errors, unreadable, refused, other, busy, fill, save, discard } = useForm(
  props.id ?? 'new-tree',
  blankTree(),
)

watch(
  tree,
  (row) => {
    if (!row) return
    fill(treeToForm(row))
  },
  { immediate: true },
)
watch([sites, clock], () => {
  if (props.id) return
  fill({ site_id: sites.value?.length === 1 ? sites.value[0]!.id : form.site_id, planted_on: clock.value?.day ?? '' })
})
const title = computed(() => (props.id ? t('form.editTitle', { tag: tree.value?.tag ?? '' }) : t('form.addTitle')))

const inRow = computed(() => !props.id && Number(form.count) !== 1)
const longest = (name: TreeFieldName) => TREE_FIELDS[name].longest ?? undefined
const BEARINGS = [0, 45, 90, 135, 180, 225, 270, 315]
const site = computed(() => sites.value?.find((s) => s.id === form.site_id))
const stops = computed(() => site.value?.stops ?? [])
const lines = computed(() => site.value?.lines ?? [])
const standing = computed(() => Boolean(clock.value && form.planted_on && form.planted_on < clock.value.day))
/** A feel of today opens the record anew today, whatever the tree's record said before. */
const asksFeel = standing

const body = () => formToTree(form, asksFeel.value, clock.value?.day ?? null)
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
const ending = ref(false)
function ended() {
  discard()
  void router.push({ name: 'tree-water', params: { id } })
}
function cancel() {
  discard()
  router.back()
}
</script>

<template>
  <PageFrame
    :title="title"
    :error="error ?? gone"
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
          <input id="f-tag" v-model="form.tag" class="plain-input" :maxlength="longest('tag')" autocomplete="off" />
        </FormField>
        <FormField
          id="f-place"
          class="wide"
          :label="t('form.place')"
          :hint="t(inRow ? 'form.placeRowHint' : 'form.placeHint', { nth: '{nth}' })"
          :error="errors.place"
        >
          <input
            id="f-place"
            v-model="form.place"
            class="plain-input"
            :maxlength="longest('place')"
            autocomplete="off"
          />
        </FormField>
        <FormField id="f-side" :label="t('form.side')" :error="errors.side">
          <input id="f-side" v-model="form.side" class="plain-input" :maxlength="longest('side')" autocomplete="off" />
        </FormField>
        <FormField
          id="f-note"
          class="wide"
          :label="t('form.note')"
          :hint="t('form.noteHint')"
          :error="errors.note_for_crew"
        >
          <input
            id="f-note"
            v-model="form.note_for_crew"
            class="plain-input"
            :maxlength="longest('note_for_crew')"
            autocomplete="off"
          />
        </FormField>
        <FormField id="f-stop" :label="t('form.stop')" :error="errors.stop">
          <input
            id="f-stop"
            v-model="form.stop"
            class="plain-input"
            list="stops"
            :maxlength="longest('stop')"
            autocomplete="off"
          />
          <datalist id="stops"><option v-for="s in stops" :key="s.id" :value="s.name" /></datalist>
        </FormField>
        <FormField id="f-plant" class="wide" :label="t('form.species')" :error="errors.plant_id">
          <PlantChoice id="f-plant" v-model="form.plant_id" :plants="plants ?? []" :label="t('form.species')" />
          <RouterLink class="own-kind" :to="{ name: 'plant-new' }">{{ t('plants.add') }}</RouterLink>
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
      <StockFields :fields="form" :errors="errors" :unreadable="unreadable" :sizes="sizes ?? []" :today="clock?.day" />
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
      <PouringFields
        :fields="form"
        :errors="errors"
        :unreadable="unreadable"
        :lines="lines"
        :site="site"
        :stored="props.id ? tree : null"
      />
      <AroundFields :fields="form" :errors="errors" :unreadable="unreadable" :today="clock?.day" />
      <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
      <p v-if="tree" class="gone">
        {{ t('end.ask') }}
        <button type="button" class="button" @click="ending = true">{{ t('end.open') }}</button>
      </p>
    </form>
    <EndDialog v-if="tree" v-model:open="ending" :tree="tree" @ended="ended" />
  </PageFrame>
</template>

<style scoped>
.own-kind {
  display: inline-flex;
  align-items: center;
  min-height: var(--tap);
}
.gone {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-3);
  margin-top: var(--space-7);
  padding-top: var(--space-4);
  border-top: 1px solid var(--hair);
}
</style>
