<script setup lang="ts">
/** One field that becomes the same on many trees. */
import { computed, reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, Problem, take } from '@/api/client'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { METHODS, METHOD_MEASURES, MICROCLIMATES, MODES, SURROUNDS, WORTHS } from '@/logic/choices'
import { TREE_FIELDS, type TreeFieldName } from '@/logic/treeFields'
import type { Dimension } from '@/units'

const props = defineProps<{ trees: string[] }>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ changed: [n: number] }>()
const { t } = useI18n()
const MEASURES: Record<string, { label: string; dimension: Dimension }> = {
  basin_diameter_m: { label: 'form.basin', dimension: 'large' },
  basin_depth_m: { label: 'form.basinDepth', dimension: 'small' },
  crown_diameter_m: { label: 'form.crown', dimension: 'large' },
  mulch_depth_m: { label: 'trees.mulchDepth', dimension: 'small' },
  edging_m: { label: 'trees.edging', dimension: 'small' },
}
const CHOICES: Record<string, { label: string; words: string; values: (string | number)[] }> = {
  surround: { label: 'form.surround', words: 'surround', values: SURROUNDS },
  microclimate: { label: 'form.microclimate', words: 'micro', values: MICROCLIMATES.map(([, v]) => v) },
  method: { label: 'form.method', words: 'method', values: [...METHODS] },
  mode: { label: 'mode.wanted', words: 'mode', values: [...MODES] },
  worth: { label: 'worth.label', words: 'worth', values: WORTHS.map(([, v]) => v) },
}
const NAMES: Record<string, [string, number][]> = { microclimate: MICROCLIMATES, worth: WORTHS }
const wordOf = (name: string, v: string | number) => NAMES[name]?.find(([, value]) => value === v)?.[0] ?? String(v)
const TEXTS: Record<string, string> = {
  stop: 'form.stop',
  line: 'form.line',
  side: 'form.side',
  note_for_crew: 'form.note',
}
/** Stops and lines are none where they are cleared; plain words are empty. */
const NAMED = ['stop', 'line']
const DATES: Record<string, string> = { planted_on: 'form.planted', mulch_measured_on: 'trees.mulchOn' }
const fields = { ...MEASURES, ...CHOICES }
const names = [...Object.keys(fields), ...Object.keys(TEXTS), ...Object.keys(DATES)]
const labelOf = (name: string) => t(fields[name]?.label ?? TEXTS[name] ?? DATES[name]!)
const field = ref('mulch_depth_m')
const WAY = ['method', 'basin_diameter_m', 'basin_depth_m']
const since = ref<'today' | 'always'>('today')
const value = reactive({ measure: null as number | null, choice: '' as string | number, words: '', day: '' })
const unreadable = ref(false)
/** The measures of a way of pouring go with it: what the program takes for usual, to be changed. */
const measures = computed(() =>
  field.value === 'method' ? (METHOD_MEASURES[String(value.choice) as keyof typeof METHOD_MEASURES] ?? []) : [],
)
const own = reactive<Record<string, number | null>>({})
const emitters = ref<number | ''>('')
watch(measures, (rows) => {
  for (const [name] of rows) own[name] = TREE_FIELDS[name].usual as number
  emitters.value = TREE_FIELDS.emitter_count.usual as number
})
const busy = ref(false)
const failed = ref('')
watch([open, field], () => {
  Object.assign(value, { measure: null, choice: CHOICES[field.value]?.values[0] ?? '', words: '', day: '' })
  failed.value = ''
})
const given = computed(() => {
  if (field.value in MEASURES) return value.measure
  if (field.value in CHOICES) return value.choice
  if (field.value in DATES) return value.day || null
  return NAMED.includes(field.value) ? value.words || null : value.words
})
async function change() {
  busy.value = true
  failed.value = ''
  try {
    const way = Object.fromEntries(measures.value.map(([name]) => [name, own[name]]))
    const count =
      field.value === 'method' && value.choice === 'emitters' ? { emitter_count: Number(emitters.value) } : {}
    const set = { [field.value]: given.value, ...way, ...count, way_since: since.value }
    const body = { trees: props.trees, set }
    await take(api.POST('/api/trees/same', { body }))
    emit('changed', props.trees.length)
    open.value = false
  } catch (e) {
    failed.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <el-dialog v-model="open" :title="t('trees.manyTitle', { n: trees.length }, trees.length)" width="min(460px, 94vw)">
    <form class="fields" @submit.prevent="change">
      <div class="field">
        <label for="m-field">{{ t('trees.manyField') }}</label>
        <select id="m-field" v-model="field">
          <option v-for="n in names" :key="n" :value="n">{{ labelOf(n) }}</option>
        </select>
      </div>
      <QuantityInput
        v-if="field in MEASURES"
        id="m-measure"
        :key="field"
        v-model="value.measure"
        v-model:invalid="unreadable"
        :dimension="MEASURES[field]!.dimension"
        :label="t('trees.manyValue')"
      />
      <div v-else-if="field in CHOICES" class="field">
        <label for="m-choice">{{ t('trees.manyValue') }}</label>
        <select id="m-choice" v-model="value.choice">
          <option v-for="v in CHOICES[field]!.values" :key="v" :value="v">
            {{ t(`${CHOICES[field]!.words}.${wordOf(field, v)}`) }}
          </option>
        </select>
      </div>
      <div v-else-if="field in DATES" class="field">
        <label for="m-day">{{ t('trees.manyValue') }}</label>
        <input id="m-day" v-model="value.day" class="plain-input" type="date" />
      </div>
      <div v-else class="field">
        <label for="m-words">{{ t('trees.manyValue') }}</label>
        <input
          id="m-words"
          v-model="value.words"
          class="plain-input"
          :maxlength="TREE_FIELDS[field as TreeFieldName].longest ?? undefined"
          autocomplete="off"
        />
        <p class="hint">{{ t('trees.clearValue') }}</p>
      </div>
      <div v-if="field === 'method' && value.choice === 'emitters'" class="field">
        <label for="m-emitters">{{ t('form.emitters') }}</label>
        <input id="m-emitters" v-model.number="emitters" class="plain-input" inputmode="numeric" autocomplete="off" />
      </div>
      <QuantityInput
        v-for="[name, dimension, label] in measures"
        :id="`m-${name}`"
        :key="name"
        v-model="own[name]!"
        :of="name"
        :dimension="dimension"
        :label="t(label)"
      />
      <div v-if="WAY.includes(field)" class="field">
        <label for="m-since">{{ t('since.ask') }}</label>
        <select id="m-since" v-model="since">
          <option v-for="s in ['today', 'always'] as const" :key="s" :value="s">{{ t(`since.${s}`) }}</option>
        </select>
        <p class="hint">{{ t(`since.${since}Hint`) }}</p>
      </div>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <button class="button main" :disabled="busy || unreadable">
        {{ t('trees.changeMany', { n: trees.length }, trees.length) }}
      </button>
    </form>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: var(--space-4);
}
</style>
