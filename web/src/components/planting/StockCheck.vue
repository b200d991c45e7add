<script setup lang="ts">
/** The look at one tree before it goes in: seven questions answered by touch; the verdict is said at once. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, Problem, type Schema, type Wrong } from '@/api/client'
import { useMeasures } from '@/composables/useMeasures'
import QuantityInput from '@/components/common/QuantityInput.vue'

const props = defineProps<{ planting: Schema['PlantingOut'] }>()
const open = defineModel<boolean>('open', { required: true })
const number = defineModel<number>('number', { required: true })
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const answers = ref<Record<string, string>>({})
const flare = ref<number | null>(0)
const found = ref<Schema['StockCheckOut'] | null>(null)
const errors = ref<Record<string, Wrong>>({})
const busy = ref(false)
const { unread } = useMeasures()
const known = computed(() => props.planting.checks.find((c) => c.number === number.value))
const questions = computed(() => Object.entries(props.planting.questions))
const others = computed(() => {
  const seen = new Set(props.planting.checks.map((c) => c.number))
  return Array.from({ length: props.planting.count }, (_, i) => i + 1).filter((n) => n !== number.value && !seen.has(n))
})
const unanswered = computed(() => questions.value.map(([q]) => q).filter((q) => !answers.value[q]))
const complete = computed(() => unanswered.value.length === 0)
/** Why nothing can be kept yet. Its line is always there: nothing moves under a finger. */
const missing = computed(() => {
  const n = unanswered.value.length
  return n ? t('planting.check.why', { n, what: t(`planting.check.${unanswered.value[0]}.q`) }, n) : '\u00a0'
})
watch(
  [number, open],
  () => {
    answers.value = { ...(known.value?.answers ?? {}) }
    flare.value = known.value?.flare_below_top_m ?? 0
    found.value = known.value ?? null
    errors.value = {}
  },
  { immediate: true },
)
async function put(n: number) {
  const answer = await persist(() =>
    api.PUT('/api/plantings/{planting_id}/checks/{number}', {
      params: { path: { planting_id: props.planting.id, number: n } },
      body: { answers: answers.value, flare_below_top_m: flare.value ?? 0 },
    }),
  )
  return answer as Schema['StockCheckOut']
}
async function keep(all: boolean) {
  if (unread.value) return
  busy.value = true
  errors.value = {}
  try {
    found.value = await put(number.value)
    if (all) for (const n of others.value) await put(n)
    emit('changed')
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    errors.value = Object.keys(e.fields).length ? e.fields : { flare_below_top_m: e.detail }
  } finally {
    busy.value = false
  }
}
function next() {
  const to = others.value.find((n) => n > number.value) ?? others.value[0]
  if (to === undefined) open.value = false
  else number.value = to
}
function answer(q: string, a: string) {
  answers.value = { ...answers.value, [q]: a }
  found.value = null
}
</script>

<template>
  <el-dialog
    v-model="open"
    :title="t('planting.check.title', { n: number, all: planting.count })"
    width="min(620px, 96vw)"
    top="4vh"
  >
    <div class="check">
      <div class="questions">
        <QuantityInput
          id="c-flare"
          v-model="flare"
          dimension="small"
          :label="t('planting.check.flare')"
          :error="errors.flare_below_top_m"
        />
        <fieldset v-for="[q, words] in questions" :key="q">
          <legend>{{ t(`planting.check.${q}.q`) }}</legend>
          <div class="answers">
            <button
              v-for="a in words"
              :key="a"
              type="button"
              class="answer"
              :aria-pressed="answers[q] === a"
              @click="answer(q, a)"
            >
              {{ t(`planting.check.${q}.${a}`) }}
            </button>
          </div>
        </fieldset>
      </div>
      <div class="foot">
        <div v-if="found" class="verdict" role="status">
          <p :class="found.verdict === 'reject' ? 'warn big' : 'big'">{{ t(`planting.check.${found.verdict}`) }}</p>
          <ul>
            <li v-for="r in found.reasons" :key="r" class="warn">{{ t(`planting.reason.${r}`) }}</li>
            <template v-if="found.verdict !== 'reject'">
              <li v-for="a in found.actions" :key="a">{{ t(`planting.action.${a}`) }}</li>
            </template>
          </ul>
        </div>
        <p v-if="!found" id="c-missing" class="missing">{{ missing }}</p>
        <div class="acts">
          <button
            v-if="!found"
            type="button"
            class="button main"
            aria-describedby="c-missing"
            :disabled="busy || !complete"
            @click="keep(false)"
          >
            {{ t('planting.check.keep') }}
          </button>
          <button v-else type="button" class="button main" @click="next">
            {{ others.length ? t('planting.check.keepNext') : t('common.close') }}
          </button>
          <button
            v-if="others.length && found && found.verdict !== 'reject'"
            type="button"
            class="button"
            :disabled="busy || !complete"
            @click="keep(true)"
          >
            {{ t('planting.check.same', { n: others.length }) }}
          </button>
        </div>
      </div>
    </div>
  </el-dialog>
</template>

<style scoped>
.check {
  display: flex;
  flex-direction: column;
  max-height: calc(88vh - 90px);
}
.questions {
  display: grid;
  gap: var(--space-3);
  overflow-y: auto;
  padding-bottom: var(--space-3);
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
}
legend {
  font-weight: 600;
  padding: 0 0 var(--space-1);
}
.answers {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
}
.answer {
  min-height: 48px;
  padding: 0 var(--space-4);
  border: 2px solid var(--edge);
  background: transparent;
  border-radius: 2px;
  cursor: pointer;
}
.answer[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--ink);
  color: var(--ground);
  font-weight: 600;
}
.big {
  font-size: var(--text-4);
  font-weight: 600;
}
.foot {
  flex: none;
  border-top: 2px solid var(--ink);
  padding: var(--space-2) 0 var(--space-3);
  display: grid;
  gap: var(--space-2);
}
.missing {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.verdict li {
  padding: var(--space-1) 0;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
}
</style>
