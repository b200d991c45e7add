<script setup lang="ts">
/** One soil test: how it is done, what is read, what it means, what it would change; then kept or used. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, newId, persist, take, type Schema, type Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import PictureChoice from '@/components/common/PictureChoice.vue'
import PlanChange from '@/components/common/PlanChange.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import HandPicture from '@/components/soil/HandPicture.vue'
import TestDrawing from '@/components/soil/TestDrawing.vue'
import TestOutcome from '@/components/soil/TestOutcome.vue'
import { useForm } from '@/composables/useForm'
import { useLook } from '@/composables/useLook'
import { useResource } from '@/composables/useResource'
import { clockTime, longDay } from '@/logic/dates'
import { blank, complete, reading, testKind, type SoilTestKind } from '@/logic/soilTests'

const props = defineProps<{ id: string; kind: string }>()
const { t } = useI18n()
const router = useRouter()
const of = computed(() => testKind(props.kind) as SoilTestKind)
const path = computed(() => ({ site_id: props.id }))
const { data, error, loading, load } = useResource((signal) =>
  take(api.GET('/api/sites/{site_id}/soil', { params: { path: path.value }, signal })),
)
/** A jar stands for two days: what was typed outlives the page and the browser. */
const { form, errors, unreadable, refused, busy, fill, save, discard } = useForm(
  `soil-${props.id}-${props.kind}`,
  { test_id: newId(), day: '', place: '', note: '', ...blank(of.value) } as Record<string, number | string | null>,
  { lasting: true },
)
watch(data, (got) => {
  if (!got) return
  fill({ day: got.today, ...(props.kind === 'crumble' ? { rain_before_mm: got.rain_before_mm } : {}) })
})
const text = (name: string) => String(form[name] ?? '')
const preview = ref<Schema['SoilTestPreview'] | null>(null)
const ready = computed(() => Boolean(form.day) && complete(of.value, form) && !Object.values(unreadable).some(Boolean))
function body(used: boolean): Schema['SoilTestIn'] {
  return {
    day: text('day'),
    place: text('place'),
    note: text('note'),
    reading: reading(of.value, form),
    used,
  }
}
const { look, errors: live } = useLook(
  (signal) =>
    ready.value
      ? take(
          api.POST('/api/sites/{site_id}/soil-tests/preview', {
            params: { path: path.value },
            body: body(false),
            signal,
          }),
        )
      : null,
  (found) => (preview.value = found),
  { none: () => (preview.value = null) },
)
watch([form, ready], look, { deep: true, immediate: true })
const wrong = (name: string): Wrong | undefined => errors.value[name] ?? live.value[name]
/** The hand as it was picked, large beside the steps. */
const seen = computed(() => {
  const pictures = of.value.fields.filter((f) => f.as === 'picture')
  const picked = pictures.map((f) => text(f.name)).filter(Boolean)
  return picked[0] ?? (pictures[0] && 'words' in pictures[0] ? pictures[0].words[1]! : '')
})
const shown = computed(() => of.value.fields.filter((f) => f.as !== 'moment'))
const moments = computed(() => of.value.fields.filter((f) => f.as === 'moment'))
/** When the layers are read, from the moment the jar was set down. */
const times = computed(() => {
  const start = text('shaken_at')
  if (!start) return []
  const at = new Date(start).getTime()
  return [
    ['sand', 60],
    ['silt', 7200],
    ['clay', 172800],
  ].map(([name, s]) => {
    const iso = new Date(at + Number(s) * 1000)
    const local = new Date(iso.getTime() - iso.getTimezoneOffset() * 60000).toISOString()
    return { name: String(name), when: `${longDay(local)}, ${clockTime(iso.toISOString())}` }
  })
})
function setDown() {
  const now = new Date()
  form.shaken_at = new Date(now.getTime() - now.getTimezoneOffset() * 60000).toISOString().slice(0, 16)
}
async function keep(used: boolean) {
  const done = await save(['day'], () =>
    persist(() =>
      api.PUT('/api/sites/{site_id}/soil-tests/{test_id}', {
        params: { path: { ...path.value, test_id: text('test_id') } },
        body: body(used),
      }),
    ),
  )
  if (done) void router.push({ name: 'site', params: { id: props.id } })
}
function cancel() {
  discard()
  void router.push({ name: 'site', params: { id: props.id } })
}
</script>

<template>
  <PageFrame :title="t(`soil.test.${kind}.title`)" :error="error" :loading="loading && !data" @retry="load">
    <template #beside>
      <RouterLink :to="{ name: 'site', params: { id } }">{{ data?.name }}</RouterLink>
    </template>
    <form class="form flow" novalidate @submit.prevent="keep(preview?.outcome.changes_plans ?? false)">
      <div class="how">
        <TestDrawing
          v-if="!of.fields.some((f) => f.as === 'picture')"
          :kind="kind"
          :form="form as Record<string, unknown>"
        />
        <HandPicture v-else class="hand" :of="seen" aria-hidden="true" />
        <ol>
          <li v-for="n in of.steps" :key="n">{{ t(`soil.test.${kind}.step${n}`) }}</li>
        </ol>
        <div v-if="kind === 'jar'" class="clock">
          <button type="button" class="button" @click="setDown">{{ t('soil.setDown') }}</button>
          <ul v-if="times.length">
            <li v-for="x in times" :key="x.name">
              {{ t('soil.readAt', { layer: t(`soil.${x.name}`) }) }} <strong>{{ x.when }}</strong>
            </li>
          </ul>
        </div>
      </div>
      <div class="read">
        <fieldset>
          <legend>{{ t('soil.read') }}</legend>
          <template v-for="f in shown" :key="f.name">
            <PictureChoice
              v-if="f.as === 'picture' && !(f.name === 'pinch' && ['no_ball', 'no_ribbon'].includes(text('ribbon')))"
              :id="`t-${f.name}`"
              v-model="form[f.name] as string"
              :label="t(`soil.field.${f.name}`)"
              :options="f.words.map((w) => ({ value: w, label: t(`soil.word.${w}`), hint: t(`soil.wordHint.${w}`) }))"
              :error="wrong(f.name)"
            >
              <template #default="{ value }"><HandPicture :of="value" /></template>
            </PictureChoice>
            <QuantityInput
              v-else-if="f.as === 'quantity'"
              :id="`t-${f.name}`"
              v-model="form[f.name] as number | null"
              v-model:invalid="unreadable[f.name]"
              :dimension="f.dimension"
              :label="t(`soil.field.${f.name}`)"
              :error="wrong(f.name)"
              :required="f.needed"
            />
            <FormField
              v-else-if="f.as === 'percent' || f.as === 'minutes'"
              :id="`t-${f.name}`"
              :label="t(`soil.field.${f.name}`)"
              :hint="f.as === 'percent' && !f.needed ? t('common.optional') : undefined"
              :error="wrong(f.name)"
            >
              <div class="typed">
                <input :id="`t-${f.name}`" v-model="form[f.name]" inputmode="decimal" autocomplete="off" />
                <span class="unit">{{ t(f.as === 'percent' ? 'common.percent' : 'common.min') }}</span>
              </div>
            </FormField>
            <FormField
              v-else-if="f.as === 'word'"
              :id="`t-${f.name}`"
              :label="t(`soil.field.${f.name}`)"
              :error="wrong(f.name)"
            >
              <select :id="`t-${f.name}`" v-model="form[f.name]">
                <option value="">{{ t('soil.notKnown') }}</option>
                <option v-for="w in f.words" :key="w" :value="w">{{ t(`soil.word.${w}`) }}</option>
              </select>
            </FormField>
          </template>
          <details v-if="moments.length" class="full">
            <summary>{{ t('soil.clocks') }}</summary>
            <div class="moments">
              <FormField
                v-for="f in moments"
                :id="`t-${f.name}`"
                :key="f.name"
                :label="t(`soil.field.${f.name}`)"
                :error="wrong(f.name)"
              >
                <input :id="`t-${f.name}`" v-model="form[f.name]" type="datetime-local" class="plain-input" />
              </FormField>
            </div>
          </details>
        </fieldset>
        <section v-if="preview" class="says" aria-live="polite">
          <h2>{{ t('soil.says') }}</h2>
          <TestOutcome :outcome="preview.outcome" :dry-on="data?.dry_on" />
          <PlanChange v-if="preview.change" :change="preview.change" />
          <p v-else-if="preview.outcome.changes_plans" class="quiet">{{ t('soil.noPlan') }}</p>
        </section>
        <fieldset>
          <legend>{{ t('soil.where') }}</legend>
          <FormField id="t-day" :label="t('soil.day')" :error="wrong('day')">
            <input id="t-day" v-model="form.day" type="date" class="plain-input" />
          </FormField>
          <FormField id="t-place" :label="t('soil.place')" :hint="t('soil.placeHint')" :error="wrong('place')">
            <input id="t-place" v-model="form.place" class="plain-input" maxlength="200" autocomplete="off" />
          </FormField>
          <FormField id="t-note" :label="t('treePage.note')" :error="wrong('note')">
            <input id="t-note" v-model="form.note" class="plain-input" maxlength="200" autocomplete="off" />
          </FormField>
        </fieldset>
        <div class="acts">
          <button v-if="preview?.outcome.changes_plans" class="button main" :disabled="busy">
            {{ t('soil.use') }}
          </button>
          <button
            type="button"
            class="button"
            :class="{ main: preview && !preview.outcome.changes_plans }"
            :disabled="busy || !preview"
            @click="keep(false)"
          >
            {{ t('soil.keep') }}
          </button>
          <button type="button" class="button plain" @click="cancel">{{ t('common.cancel') }}</button>
          <p v-if="refused || live['']" class="warn" role="alert">{{ refused || live[''] }}</p>
        </div>
      </div>
    </form>
  </PageFrame>
</template>

<style scoped>
.flow {
  max-width: 1180px;
  display: grid;
  grid-template-columns: minmax(0, 440px) minmax(0, 1fr);
  gap: var(--space-6) var(--space-8);
  align-items: start;
}
.how {
  display: grid;
  gap: var(--space-4);
}
.how ol {
  list-style: decimal;
  padding-left: var(--space-5);
  display: grid;
  gap: var(--space-2);
  font-size: var(--text-2);
}
.hand {
  width: 100%;
  max-width: 300px;
  height: auto;
}
.clock {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
}
.says {
  display: grid;
  gap: var(--space-4);
  border-top: 2px solid var(--ink);
  padding-top: var(--space-4);
  margin-bottom: var(--space-6);
}
.says h2 {
  font-size: var(--text-3);
}
.moments {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(216px, 1fr));
  gap: var(--space-4) var(--space-6);
  margin-top: var(--space-2);
}
summary {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--water);
  text-decoration: underline;
  text-underline-offset: 4px;
}
@media (max-width: 1023px) {
  .flow {
    grid-template-columns: minmax(0, 1fr);
  }
  .how ol {
    order: -1;
  }
}
</style>
