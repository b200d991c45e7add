<script setup lang="ts">
/** An order as it was given out: days, hours, ways, litres, who is exempt; its own words beside it. */
import { computed, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, missing, newId, take, type Schema } from '@/api/client'
import FormActs from '@/components/common/FormActs.vue'
import FormField from '@/components/common/FormField.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import WeekdayBoxes from '@/components/common/WeekdayBoxes.vue'
import { useForm } from '@/composables/useForm'
import { useResource } from '@/composables/useResource'
import { sent } from '@/logic/numbers'

const props = defineProps<{ id?: string }>()
const { t } = useI18n()
const router = useRouter()
const { data, loading, error, load } = useResource(async (signal) => {
  const [orders, sites] = await Promise.all([
    take(api.GET('/api/restrictions', { signal })),
    take(api.GET('/api/sites', { signal })),
  ])
  if (props.id && !orders.some((o) => o.id === props.id)) throw missing(props.id)
  return { orders, sites }
})
const own = computed(() => data.value?.orders.find((o) => o.id === props.id) ?? null)
/** What it said on days gone by stays on record. */
const hasPast = computed(() => {
  const o = own.value
  return o !== null && (o.first_day ?? '') < o.today && (o.last_day ?? o.today) >= o.today
})
type Method = 'hose' | 'bucket' | 'tank' | 'emitters' | 'soaker' | 'bag' | 'sprinkler' | 'box'
type Water = 'mains' | 'well' | 'reclaimed' | 'pond'
type Rule = 'weekdays' | 'windows' | 'methods' | 'event_l'
const METHODS: Method[] = ['hose', 'bucket', 'tank', 'emitters', 'soaker', 'bag', 'sprinkler', 'box']
const WATERS: Water[] = ['mains', 'well', 'reclaimed', 'pond']
const RULES: Rule[] = ['weekdays', 'windows', 'methods', 'event_l']
const STAGES = 6
interface Exempt {
  methods: Method[]
  water: Water[]
  planted_within_days: number | ''
  rules: Rule[]
}
const blank = {
  name: '',
  stage: 1,
  first_day: '',
  last_day: '',
  byDays: 'any' as 'any' | 'week' | 'house',
  week: [] as number[],
  even: [] as number[],
  odd: [] as number[],
  hours: [] as { from: string; to: string }[],
  someMethods: false,
  methods: [] as Method[],
  event_l: null as number | null,
  week_l: null as number | null,
  closes_yards: false,
  exempt: [] as Exempt[],
  words: '',
  link: '',
  sites: [] as string[],
  since: 'changed' as 'changed' | 'wrong',
  changes_from: '',
  version: null as number | null,
}
const { form, errors, unreadable, refused, other, busy, fill, save, discard } = useForm(props.id ?? 'new-order', blank)
watch(data, (got) => {
  const o = own.value
  if (!o) {
    if (got) fill({ sites: got.sites.map((s) => s.id) })
    return
  }
  const days = o.rules.weekdays
  fill({
    name: o.name,
    stage: o.stage,
    first_day: o.first_day ?? '',
    last_day: o.last_day ?? '',
    byDays: Array.isArray(days) ? 'week' : days ? 'house' : 'any',
    week: Array.isArray(days) ? days : [],
    even: days && !Array.isArray(days) ? (days.even ?? []) : [],
    odd: days && !Array.isArray(days) ? (days.odd ?? []) : [],
    hours: (o.rules.windows ?? []).map(([from, to]) => ({ from: from!, to: to! })),
    someMethods: o.rules.methods != null,
    methods: o.rules.methods ?? [],
    event_l: o.rules.event_l ?? null,
    week_l: o.week_l ?? null,
    closes_yards: o.closes_yards ?? false,
    exempt: (o.rules.exempt ?? []).map((e) => ({
      methods: e.methods ?? [],
      water: e.water ?? [],
      planted_within_days: e.planted_within_days ?? '',
      rules: e.rules,
    })),
    words: o.words ?? '',
    link: o.link ?? '',
    sites: o.sites,
    changes_from: o.today,
    version: o.version,
  })
})
const id = props.id ?? newId()
async function submit() {
  const some = <T,>(list: T[]) => (list.length ? list : null)
  const body: Schema['RestrictionIn'] = {
    name: form.name,
    stage: form.stage,
    first_day: form.first_day || null,
    last_day: form.last_day || null,
    rules: {
      weekdays:
        form.byDays === 'week' ? form.week : form.byDays === 'house' ? { even: form.even, odd: form.odd } : null,
      windows: form.hours.length ? form.hours.map((h) => [h.from, h.to]) : null,
      methods: form.someMethods ? form.methods : null,
      event_l: form.event_l,
      exempt: form.exempt.map((e) => ({
        methods: some(e.methods),
        water: some(e.water),
        planted_within_days: sent(e.planted_within_days),
        rules: e.rules,
      })),
    },
    week_l: form.week_l,
    closes_yards: form.closes_yards,
    words: form.words,
    link: form.link,
    sites: form.sites,
    changes_from: (hasPast.value && form.since === 'changed' && form.changes_from) || null,
    version: form.version,
  }
  const done = await save(hasPast.value && form.since === 'changed' ? ['name', 'changes_from'] : ['name'], () =>
    take(api.PUT('/api/restrictions/{order_id}', { params: { path: { order_id: id } }, body })),
  )
  if (done) void router.push({ name: 'drought' })
}
function cancel() {
  discard()
  router.back()
}
const addExempt = () => form.exempt.push({ methods: [], water: [], planted_within_days: '', rules: ['weekdays'] })
</script>

<template>
  <PageFrame
    :title="props.id ? t('order3.edit') : t('order3.add')"
    :error="error"
    :loading="loading && !data"
    @retry="load"
  >
    <form class="form" novalidate @submit.prevent="submit">
      <fieldset v-if="hasPast">
        <legend>{{ t('order3.since') }}</legend>
        <label class="field full check">
          <input v-model="form.since" type="radio" name="since" value="changed" />{{ t('order3.changed') }}
        </label>
        <FormField
          v-if="form.since === 'changed'"
          id="o-changes"
          :label="t('order3.changesFrom')"
          :error="errors.changes_from"
        >
          <input id="o-changes" v-model="form.changes_from" type="date" class="plain-input" />
        </FormField>
        <label class="field full check">
          <input v-model="form.since" type="radio" name="since" value="wrong" />{{ t('order3.wrong') }}
        </label>
      </fieldset>
      <fieldset>
        <legend>{{ t('order3.which') }}</legend>
        <FormField id="o-name" class="wide" :label="t('sites.name')" :error="errors.name">
          <input id="o-name" v-model="form.name" class="plain-input" maxlength="80" autocomplete="off" />
        </FormField>
        <FormField id="o-stage" :label="t('order3.stage')" :error="errors.stage">
          <select id="o-stage" v-model.number="form.stage">
            <option v-for="n in STAGES" :key="n" :value="n - 1">{{ n - 1 }}</option>
          </select>
        </FormField>
        <FormField id="o-first" :label="t('order3.first')" :hint="t('order3.open')" :error="errors.first_day">
          <input id="o-first" v-model="form.first_day" type="date" class="plain-input" />
        </FormField>
        <FormField id="o-last" :label="t('order3.last')" :hint="t('order3.open')" :error="errors.last_day">
          <input id="o-last" v-model="form.last_day" type="date" class="plain-input" />
        </FormField>
        <div class="field full days" role="group" :aria-label="t('order3.sites')">
          <span class="label">{{ t('order3.sites') }}</span>
          <label v-for="s in data?.sites ?? []" :key="s.id" class="day">
            <input v-model="form.sites" type="checkbox" :value="s.id" />{{ s.name }}
          </label>
          <p v-if="errors.sites" class="warn">{{ t('order3.needsSite') }}</p>
        </div>
      </fieldset>
      <fieldset>
        <legend>{{ t('order3.when') }}</legend>
        <FormField id="o-by" :label="t('order3.by')">
          <select id="o-by" v-model="form.byDays">
            <option value="any">{{ t('order3.anyDay') }}</option>
            <option value="week">{{ t('order3.weekdays') }}</option>
            <option value="house">{{ t('order3.house') }}</option>
          </select>
        </FormField>
        <WeekdayBoxes v-if="form.byDays === 'week'" v-model="form.week" :label="t('order3.weekdays')" :from="1" />
        <template v-if="form.byDays === 'house'">
          <WeekdayBoxes
            v-for="side in ['even', 'odd'] as const"
            :key="side"
            v-model="form[side]"
            :label="t(`order3.${side}`)"
            :from="1"
            named
          />
        </template>
        <div v-for="(h, n) in form.hours" :key="n" class="field full hours">
          <label :for="`o-from-${n}`">{{ t('order3.from') }}</label>
          <input :id="`o-from-${n}`" v-model="h.from" type="time" class="plain-input" />
          <label :for="`o-to-${n}`">{{ t('order3.to') }}</label>
          <input :id="`o-to-${n}`" v-model="h.to" type="time" class="plain-input" />
          <button type="button" class="button plain" @click="form.hours.splice(n, 1)">{{ t('order3.without') }}</button>
        </div>
        <div class="field full">
          <button type="button" class="button" @click="form.hours.push({ from: '18:00', to: '10:00' })">
            {{ t('order3.addHours') }}
          </button>
        </div>
      </fieldset>
      <fieldset>
        <legend>{{ t('order3.how') }}</legend>
        <label class="field full check"
          ><input v-model="form.someMethods" type="checkbox" /> {{ t('order3.someMethods') }}</label
        >
        <div v-if="form.someMethods" class="field full days" role="group" :aria-label="t('order3.someMethods')">
          <label v-for="m in METHODS" :key="m" class="day"
            ><input v-model="form.methods" type="checkbox" :value="m" />{{ t(`drought.way.${m}`) }}</label
          >
        </div>
        <QuantityInput
          id="o-event"
          v-model="form.event_l"
          v-model:invalid="unreadable.event_l"
          dimension="volume"
          :digits="0"
          :label="t('order3.event')"
          :error="errors['rules.event_l']"
        />
        <QuantityInput
          id="o-week"
          v-model="form.week_l"
          v-model:invalid="unreadable.week_l"
          dimension="volume"
          :digits="0"
          :label="t('order3.week')"
          :error="errors.week_l"
        />
        <label class="field full check"
          ><input v-model="form.closes_yards" type="checkbox" /> {{ t('order3.yards') }}</label
        >
      </fieldset>
      <fieldset>
        <legend>{{ t('order3.exempt') }}</legend>
        <div v-for="(e, n) in form.exempt" :key="n" class="field full exempt">
          <p class="label">{{ t('order3.exemptWho') }}</p>
          <div class="days" role="group" :aria-label="t('order3.exemptWays')">
            <label v-for="m in METHODS" :key="m" class="day"
              ><input v-model="e.methods" type="checkbox" :value="m" />{{ t(`drought.way.${m}`) }}</label
            >
            <label v-for="w in WATERS" :key="w" class="day"
              ><input v-model="e.water" type="checkbox" :value="w" />{{ t(`drought.water.${w}`) }}</label
            >
          </div>
          <FormField :id="`o-new-${n}`" :label="t('order3.new')">
            <input
              :id="`o-new-${n}`"
              v-model="e.planted_within_days"
              class="plain-input"
              inputmode="numeric"
              autocomplete="off"
            />
          </FormField>
          <p class="label">{{ t('order3.exemptFrom') }}</p>
          <div class="days" role="group" :aria-label="t('order3.exemptFrom')">
            <label v-for="r in RULES" :key="r" class="day"
              ><input v-model="e.rules" type="checkbox" :value="r" />{{ t(`drought.of.${r}`) }}</label
            >
          </div>
          <button type="button" class="button plain" @click="form.exempt.splice(n, 1)">
            {{ t('order3.without') }}
          </button>
        </div>
        <div class="field full">
          <button type="button" class="button" @click="addExempt">{{ t('order3.addExempt') }}</button>
        </div>
      </fieldset>
      <fieldset>
        <legend>{{ t('order3.words') }}</legend>
        <FormField
          id="o-words"
          class="wide"
          :label="t('order3.text')"
          :hint="t('drought.decides')"
          :error="errors.words"
        >
          <textarea id="o-words" v-model="form.words" class="plain-input" rows="5" maxlength="4000" />
        </FormField>
        <FormField id="o-link" class="wide" :label="t('order3.link')" :error="errors.link">
          <input id="o-link" v-model="form.link" class="plain-input" maxlength="300" autocomplete="off" />
        </FormField>
      </fieldset>
      <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
    </form>
  </PageFrame>
</template>

<style scoped>
.check,
.hours {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-3);
}
.hours input {
  width: 150px;
}
.exempt {
  border-left: 4px solid var(--edge);
  padding-left: var(--space-4);
  display: grid;
  gap: var(--space-2);
}
</style>
