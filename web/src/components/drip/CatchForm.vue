<script setup lang="ts">
/** The catch test: a cup under each emitter, a timed run, what each caught; what past ones said, and what became of it. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, type Schema, type Wrong } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { useActing } from '@/composables/useActing'
import { useCatchWords } from '@/composables/useCatchWords'
import { fullDay } from '@/logic/dates'
import { fixed } from '@/logic/numbers'
import { nowMs } from '@/offline/time'

const MINUTE_MS = 60_000
const TICK_MS = 1000
const props = defineProps<{ treeId: string; emitters: number; tests: Schema['CatchOut'][] }>()
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const { evenness, wrong, since } = useCatchWords()
const minutes = ref<number | null>(null)
/** What was typed so far [mL], kept like the clock: fourteen cups are read one by one. */
const cups = useLocalStorage<(number | null)[]>(`june-shade-cups-${props.treeId}`, [])
watch(
  () => props.emitters,
  (n) => (cups.value = Array.from({ length: n }, (_, i) => cups.value[i] ?? null)),
  { immediate: true },
)
const errors = ref<Record<string, Wrong>>({})
const busy = ref(false)

/** When the run began; kept, so that a lock or a reload loses nothing. */
const began = useLocalStorage<number | null>(`june-shade-catch-${props.treeId}`, null)
const now = ref(nowMs())
useIntervalFn(() => (now.value = nowMs()), TICK_MS)
const ran = computed(() => {
  const seconds = Math.max(0, Math.floor((now.value - (began.value ?? now.value)) / 1000))
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
})
function begin() {
  now.value = began.value = nowMs()
}
function stop() {
  minutes.value = Math.round((10 * (nowMs() - began.value!)) / MINUTE_MS) / 10
  began.value = null
}

const { busy: goesBack, failed, act, unread } = useActing(async () => emit('changed'))
let id = newId()
async function keep() {
  errors.value = {}
  if (!minutes.value) errors.value.minutes = t('form.required')
  cups.value.forEach((ml, n) => {
    if (ml === null) errors.value[`cup${n}`] = t('form.required')
  })
  if (Object.keys(errors.value).length || unread.value) return
  busy.value = true
  try {
    const body = { tree_id: props.treeId, minutes: minutes.value!, caught_ml: cups.value as number[], note: '' }
    await persist(() => api.PUT('/api/drip-catches/{catch_id}', { params: { path: { catch_id: id } }, body }))
    id = newId()
    minutes.value = null
    cups.value = cups.value.map(() => null)
    emit('changed')
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    errors.value = e.fields.minutes ? e.fields : { all: e.fields.caught_ml ?? e.detail }
  } finally {
    busy.value = false
  }
}
function back(test: Schema['CatchOut']) {
  const params = { path: { catch_id: test.id } }
  return act(() => persist(() => api.POST('/api/drip-catches/{catch_id}/withdraw', { params })), '', { typed: false })
}
</script>

<template>
  <div class="catch">
    <p class="quiet">{{ t('drip.catch.how', { n: emitters }, emitters) }}</p>
    <div class="run">
      <template v-if="began">
        <p class="ran" role="timer">{{ ran }}</p>
        <button type="button" class="button main" @click="stop">{{ t('drip.catch.stop') }}</button>
      </template>
      <button v-else type="button" class="button" @click="begin">{{ t('drip.catch.start') }}</button>
      <FormField id="c-minutes" :label="t('drip.catch.minutes')" :error="errors.minutes">
        <div class="typed">
          <input id="c-minutes" v-model.number="minutes" type="number" min="1" step="any" inputmode="decimal" />
          <span class="unit">{{ t('drip.min') }}</span>
        </div>
      </FormField>
    </div>
    <div class="cups">
      <QuantityInput
        v-for="(_, n) in cups"
        :id="`c-${n + 1}`"
        :key="n"
        v-model="cups[n]!"
        dimension="cup"
        :label="t('drip.catch.cup', { n: n + 1 })"
        :error="errors[`cup${n}`]"
      />
    </div>
    <p v-if="errors.all" class="warn" role="alert">{{ errors.all }}</p>
    <ActButton :disabled="busy" @act="keep">{{ t('drip.catch.keep') }}</ActButton>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <ul v-if="tests.length">
      <li v-for="one in tests" :key="one.id" :class="{ withdrawn: one.withdrawn }">
        <p>
          <strong>{{ fullDay(one.day) }}</strong>
          {{ t('drip.catch.was', { minutes: fixed(one.minutes, one.minutes % 1 ? 1 : 0), even: evenness(one) }) }}
        </p>
        <p v-for="words in wrong(one)" :key="words" :class="{ warn: one.in_force }">{{ words }}</p>
        <p v-if="since(one)" class="quiet">{{ since(one) }}</p>
        <p v-if="one.withdrawn" class="quiet">{{ t('drip.proof.withdrawn') }}</p>
        <template v-else>
          <p v-if="!one.in_force" class="quiet">{{ t('drip.catch.former') }}</p>
          <button type="button" class="button plain" :disabled="goesBack" @click="back(one)">
            {{ t('drip.proof.back') }}
          </button>
        </template>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.catch {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
.run {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3) var(--space-5);
  align-items: end;
}
.ran {
  font-size: var(--text-5);
  font-weight: 600;
  line-height: 1;
}
.cups {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(130px, 1fr));
  gap: var(--space-3) var(--space-5);
  width: 100%;
}
ul {
  width: 100%;
}
li {
  border-bottom: 1px solid var(--hair);
  padding: var(--space-2) 0;
}
.withdrawn p:first-child {
  text-decoration: line-through;
}
</style>
