<script setup lang="ts">
/** A daily file: chosen, understood, looked at, and only then brought in. */
import { computed, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import ImportProgress from '@/components/common/ImportProgress.vue'
import DaysTable from '@/components/weather/DaysTable.vue'
import { keepFocus } from '@/composables/useFocus'
import { useImport } from '@/composables/useImport'
import { longDay, fullDay } from '@/logic/dates'
import { figure } from '@/logic/numbers'

const props = defineProps<{ stationId: string }>()
const emit = defineEmits<{ stored: [] }>()
const { t } = useI18n()
const { file, row, failed, sending, busy, bring, readAs, store, cancel } = useImport(() => props.stationId)
const mapping = ref<Record<string, string>>({})
const stored = computed(() => row.value?.state === 'stored')

function choose(event: Event) {
  const chosen = (event.target as HTMLInputElement).files?.[0]
  if (!chosen) return
  mapping.value = {}
  p.value = null
  void bring(chosen)
}
async function means(header: string, word: string) {
  mapping.value = { ...mapping.value, [header]: word }
  await readAs(mapping.value)
  void keepFocus()
}
function stop() {
  p.value = null
  void cancel()
}
async function takeIt() {
  await store()
  if (stored.value) emit('stored')
}
/** What was understood last: it stays in sight, and under the keys, while the file is read anew. */
const p = shallowRef<Schema['WeatherFileOut'] | null>(null)
watch(
  () => row.value?.weather,
  (now) => now && (p.value = now),
)
/** What a file may not say of itself is asked alone: its units, the order of day and month. */
const ASKED: Record<string, string[]> = { units: ['tenths', 'metric', 'us'], date_order: ['dmy', 'mdy'] }
const asked = computed(() => (p.value?.columns.length === 1 ? (p.value.columns[0]!.header ?? '') : ''))
const choices = computed(() => ASKED[asked.value])
const count = (n: number) => figure(n)
const methods = computed(() =>
  Object.entries(p.value?.methods ?? {}).map(([m, n]) => {
    const words = m
      .split('+')
      .map((w) => t(`eto_method.${w || 'none'}`))
      .join(', ')
    return `${count(n)} × ${words}`
  }),
)
</script>

<template>
  <section>
    <h2 class="ruled-head">{{ t('weather.import') }}</h2>
    <p class="quiet">{{ t('weather.importWords') }}</p>
    <label class="button choose">
      {{ file ? file.name : t('weather.choose') }}
      <input class="visually-hidden" type="file" accept=".csv,.dly,.epw,.txt,text/csv,text/plain" @change="choose" />
    </label>
    <ImportProgress v-if="busy" :row="row" :sending="sending" @cancel="stop" />
    <p v-if="failed" class="warn" role="alert">{{ file?.name }}: {{ failed }}</p>
    <div v-if="p && !failed" class="preview" role="status">
      <p class="sum">
        <strong>{{
          p.problem
            ? choices || !p.columns.length
              ? p.problem
              : t('weather.unknownColumns')
            : t(stored ? 'weather.stored' : 'weather.understood', { n: count(p.days) }, p.days)
        }}</strong>
        <span v-if="p.first_day && p.last_day">{{
          t('weather.span', { first: fullDay(p.first_day), last: fullDay(p.last_day) })
        }}</span>
      </p>
      <template v-if="!stored">
        <p v-if="p.days && !p.problem">
          {{ t('weather.newChanged', { added: count(p.new), changed: count(p.changed) }) }}
        </p>
        <p v-else-if="p.problem && p.columns.length && !choices">{{ t('weather.sayColumns') }}</p>
        <p v-else-if="!p.problem" class="warn">{{ t('weather.noneGood') }}</p>
        <p v-if="p.days" class="narrow">{{ t('weather.eto') }}: {{ methods.join('; ') }}</p>
        <p v-if="!p.problem">
          {{ t(`weather.kind.${p.kind}`) }}
          <template v-if="p.file_place">{{ t('weather.filePlace', { place: p.file_place }) }}</template>
        </p>
        <p v-for="c in p.place" :key="c" class="warn">{{ t(`weather.placeCode.${c}`) }}</p>
        <h3 v-if="p.columns.length && !choices">{{ t('weather.columns') }}</h3>
        <ul class="columns">
          <li v-for="c in p.columns" :key="c.header" class="field">
            <label :for="`map-${c.header}`">{{
              choices ? t(`weather.asked.${asked}`) : t('weather.means', { header: c.header })
            }}</label>
            <select
              :id="`map-${c.header}`"
              :value="c.meaning"
              :disabled="busy"
              @change="means(c.header, ($event.target as HTMLSelectElement).value)"
            >
              <option value="">{{ t(choices ? 'common.choose' : 'weather.notUsed') }}</option>
              <option v-for="m in choices ?? p.meanings" :key="m" :value="m">{{ t(`meaning.${m}`) }}</option>
            </select>
          </li>
        </ul>
        <template v-if="p.refused_count">
          <h3 class="warn">{{ t('weather.refused', { n: p.refused_count }, p.refused_count) }}</h3>
          <ul class="issues">
            <li v-for="(i, n) in p.refused" :key="n">
              <strong>{{ t('weather.line', { line: i.line }) }}</strong> {{ i.column }} {{ i.message }}
            </li>
          </ul>
        </template>
        <template v-if="p.doubts.length">
          <h3>{{ t('weather.doubts', { n: p.doubts.length }, p.doubts.length) }}</h3>
          <ul class="issues">
            <li v-for="(i, n) in p.doubts" :key="n">
              <strong>{{ t('weather.line', { line: i.line }) }}</strong> {{ i.message }}
            </li>
          </ul>
        </template>
        <template v-if="p.flagged_count">
          <h3>{{ t('weather.flaggedN', { n: p.flagged_count }, p.flagged_count) }}</h3>
          <ul class="issues">
            <li v-for="f in p.flagged" :key="f.day">
              <strong>{{ fullDay(f.day) }}</strong> {{ f.flags.map((x) => t(`weather.flag.${x}`)).join(', ') }}
            </li>
          </ul>
        </template>
        <DaysTable v-if="p.sample.length" :days="p.sample" :caption="longDay(p.sample[0]!.day)" />
        <p v-if="p.days && !p.problem" class="acts">
          <button type="button" class="button main" :disabled="busy" @click="takeIt">
            {{ t('weather.store', { n: count(p.days) }, p.days) }}
          </button>
          <span class="quiet">{{ t('weather.nothingStored') }}</span>
        </p>
      </template>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--space-3);
  align-content: start;
}
h3 {
  font-size: var(--text-2);
}
.choose {
  justify-self: start;
  max-width: 100%;
}
.choose:focus-within {
  outline: 3px solid var(--water);
  outline-offset: 2px;
}
.preview {
  display: grid;
  gap: var(--space-3);
  min-width: 0;
}
.sum strong {
  font-size: var(--text-4);
  margin-right: var(--space-3);
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: var(--space-2) var(--space-5);
  align-items: end;
}
.issues {
  max-height: 220px;
  overflow: auto;
}
.issues li {
  padding: var(--space-1) 0;
  border-bottom: 1px solid var(--hair);
}
.acts {
  display: flex;
  gap: var(--space-4);
  align-items: center;
  flex-wrap: wrap;
}
</style>
