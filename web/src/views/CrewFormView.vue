<script setup lang="ts">
/** A crew: who works together, from which yard, with which hours, hoses and tank. */
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
import { fixed, sent } from '@/logic/numbers'

const props = defineProps<{ id?: string }>()
const { t } = useI18n()
const router = useRouter()
const { data, loading, error, load } = useResource(async (signal) => {
  const crews = await take(api.GET('/api/crews', { signal }))
  if (props.id && !crews.some((c) => c.id === props.id)) throw missing(props.id)
  return crews
})
const { data: log } = useResource(async (signal) =>
  props.id ? take(api.GET('/api/crews/{crew_id}/learned', { params: { path: { crew_id: props.id } }, signal })) : null,
)
const seen = (of?: Schema['LearnedOut']) =>
  of && of.minutes !== null ? t('crews.learned', { n: fixed(of.minutes, 0), of: of.of }, of.of) : ''
const own = computed(() => data.value?.find((c) => c.id === props.id) ?? null)
const HOUR_MIN = 60
const blank = {
  name: '',
  people: 2 as number | '',
  hours: 8 as number | '',
  starts: '06:00',
  break_min: 90 as number | '',
  hoses: 1 as number | '',
  tank_l: null as number | null,
  fill_min: 15 as number | '',
  set_up_min: 6 as number | '',
  handling_min: 1 as number | '',
  yard_latitude_deg: '' as number | '',
  yard_longitude_deg: '' as number | '',
  working_days: [0, 1, 2, 3, 4],
  version: null as number | null,
}
const { form, errors, unreadable, refused, other, busy, fill, save, discard } = useForm(props.id ?? 'new-crew', blank)
watch(own, (c) => {
  if (!c) return
  const kept = Object.fromEntries(Object.keys(blank).map((k) => [k, c[k as keyof typeof c] ?? '']))
  const h = String(Math.floor(c.starts_min! / HOUR_MIN)).padStart(2, '0')
  const m = String(c.starts_min! % HOUR_MIN).padStart(2, '0')
  fill({ ...(kept as typeof blank), tank_l: c.tank_l ?? null, version: c.version, starts: `${h}:${m}` })
})
/** What the log says otherwise than is typed. */
const learned = computed(() =>
  (
    [
      ['set_up_min', log.value?.set_up],
      ['handling_min', log.value?.handling],
    ] as const
  ).flatMap(([name, of]) => {
    const minutes = of?.minutes === null || of?.minutes === undefined ? null : Math.round(of.minutes)
    return minutes === null || minutes === Number(form[name]) ? [] : [{ name, minutes }]
  }),
)
function goByLog() {
  for (const { name, minutes } of learned.value) form[name] = minutes
}
const FIGURES = ['people', 'hours', 'break_min', 'hoses', 'fill_min', 'set_up_min', 'handling_min'] as const
const id = props.id ?? newId()
async function submit() {
  const { starts, ...typed } = form
  const [h, m] = starts.split(':').map(Number)
  const body = {
    ...typed,
    ...Object.fromEntries(FIGURES.map((name) => [name, sent(form[name])])),
    starts_min: (h ?? 0) * HOUR_MIN + (m ?? 0),
    yard_latitude_deg: sent(form.yard_latitude_deg),
    yard_longitude_deg: sent(form.yard_longitude_deg),
  } as Schema['CrewIn']
  const done = await save(['name', ...FIGURES], () =>
    take(api.PUT('/api/crews/{crew_id}', { params: { path: { crew_id: id } }, body })),
  )
  if (done) void router.push({ name: 'crews' })
}
function cancel() {
  discard()
  router.back()
}
</script>

<template>
  <PageFrame
    :title="props.id ? t('crews.edit', { name: own?.name ?? '' }) : t('crews.add')"
    :error="error"
    :loading="loading && !data"
    @retry="load"
  >
    <form class="form" novalidate @submit.prevent="submit">
      <fieldset>
        <legend>{{ t('crews.who') }}</legend>
        <FormField id="c-name" class="wide" :label="t('sites.name')" :error="errors.name">
          <input id="c-name" v-model="form.name" class="plain-input" maxlength="80" autocomplete="off" />
        </FormField>
        <FormField id="c-people" :label="t('crews.people')" :error="errors.people">
          <input id="c-people" v-model="form.people" class="plain-input" inputmode="numeric" autocomplete="off" />
        </FormField>
        <FormField id="c-hours" :label="t('crews.hours')" :hint="t('crews.hoursHint')" :error="errors.hours">
          <input id="c-hours" v-model="form.hours" class="plain-input" inputmode="decimal" autocomplete="off" />
        </FormField>
        <FormField id="c-starts" :label="t('crews.starts')" :error="errors.starts_min">
          <input id="c-starts" v-model="form.starts" type="time" class="plain-input" />
        </FormField>
        <FormField id="c-break" :label="t('crews.break')" :error="errors.break_min">
          <input id="c-break" v-model="form.break_min" class="plain-input" inputmode="numeric" autocomplete="off" />
        </FormField>
        <WeekdayBoxes v-model="form.working_days" :label="t('sites.workingDays')" named>
          <p v-if="errors.working_days" class="warn">{{ t('form.required') }}</p>
        </WeekdayBoxes>
      </fieldset>
      <fieldset>
        <legend>{{ t('crews.with') }}</legend>
        <FormField id="c-hoses" :label="t('crews.hoses')" :error="errors.hoses">
          <input id="c-hoses" v-model="form.hoses" class="plain-input" inputmode="numeric" autocomplete="off" />
        </FormField>
        <QuantityInput
          id="c-tank"
          v-model="form.tank_l"
          v-model:invalid="unreadable.tank_l"
          dimension="volume"
          :digits="0"
          :label="t('crews.tank')"
          :hint="t('crews.tankHint')"
          :error="errors.tank_l"
        />
        <FormField id="c-fill" :label="t('crews.fill')" :error="errors.fill_min">
          <input id="c-fill" v-model="form.fill_min" class="plain-input" inputmode="numeric" autocomplete="off" />
        </FormField>
        <FormField id="c-setup" :label="t('crews.setUp')" :hint="seen(log?.set_up)" :error="errors.set_up_min">
          <input id="c-setup" v-model="form.set_up_min" class="plain-input" inputmode="decimal" autocomplete="off" />
        </FormField>
        <FormField
          id="c-handling"
          :label="t('crews.handling')"
          :hint="seen(log?.handling)"
          :error="errors.handling_min"
        >
          <input
            id="c-handling"
            v-model="form.handling_min"
            class="plain-input"
            inputmode="decimal"
            autocomplete="off"
          />
        </FormField>
        <div v-if="learned.length" class="full">
          <button type="button" class="button" @click="goByLog">{{ t('crews.goByLog') }}</button>
        </div>
      </fieldset>
      <fieldset>
        <legend>{{ t('crews.yard') }}</legend>
        <FormField
          id="c-lat"
          :label="t('sites.latitude')"
          :hint="t('crews.yardHint')"
          :error="errors.yard_latitude_deg"
        >
          <input
            id="c-lat"
            v-model="form.yard_latitude_deg"
            class="plain-input"
            inputmode="decimal"
            autocomplete="off"
          />
        </FormField>
        <FormField id="c-lon" :label="t('sites.longitude')" :error="errors.yard_longitude_deg">
          <input
            id="c-lon"
            v-model="form.yard_longitude_deg"
            class="plain-input"
            inputmode="decimal"
            autocomplete="off"
          />
        </FormField>
      </fieldset>
      <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
    </form>
  </PageFrame>
</template>
