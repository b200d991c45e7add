<script setup lang="ts">
/** The check-up at the tree: one question, large answers, skip anything; then the act first, why, and what is to be done. */
import { computed, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { Problem } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import PictureInput from '@/components/common/PictureInput.vue'
import CheckPicture from '@/components/looking/CheckPicture.vue'
import EvidenceBars from '@/components/looking/EvidenceBars.vue'
import { useCheckup } from '@/composables/useCheckup'
import { usePictures } from '@/composables/usePictures'
import { actOf } from '@/logic/checkup'
import { longDay } from '@/logic/dates'

const props = defineProps<{ treeId: string }>()
const emit = defineEmits<{ kept: []; left: []; dead: [] }>()
const { t, te } = useI18n()
const { findings, order, looked, question, enough, over, further, ended, begin, answer, skip, back, keep } = useCheckup(
  () => props.treeId,
)
const { taken, add, drop, send } = usePictures()
const busy = ref(false)
const failed = ref('')
async function go(work: () => Promise<unknown>): Promise<boolean> {
  busy.value = true
  failed.value = ''
  try {
    return (await work()) !== null
  } catch (e) {
    const why = e instanceof Problem ? e.detail : String(e)
    failed.value = why === 'offline' ? t('common.offline') : t('error.refused', { detail: why })
    return false
  } finally {
    busy.value = false
  }
}
onMounted(() => go(begin))
const act = computed(() => (looked.value ? actOf(looked.value) : 'carry_on'))
const causes = computed(() => (looked.value?.causes ?? []).slice(0, 3).filter((c) => c.probability >= 0.05))
const likely = computed(() =>
  causes.value
    .map((c) => t('checks.percent', { cause: t(`checks.cause.${c.cause}`), p: Math.round(100 * c.probability) }))
    .join(', '),
)
/** Answers that were felt a moment ago and stand. */
const feltNow = computed(() =>
  Object.entries(looked.value?.felt_now ?? {})
    .filter(([finding, felt]) => findings.value[finding as keyof typeof findings.value] === felt)
    .map(([finding, felt]) => t(`feel.short.${finding === 'ball_feel' ? 'ball' : 'ring'}`, { felt: t(`feel.${felt}`) }))
    .join(', '),
)
const lookOn = computed(() => looked.value?.look_on ?? '')
const advice = computed(() => (looked.value?.actions ?? []).filter((a) => te(`checks.advice.${a}`)))
const left = ref<string[]>([])
const hold = ref(true)
const note = ref('')
watch(looked, () => (left.value = []))
const tasks = computed(() => (looked.value?.tasks ?? []).filter((one) => !left.value.includes(one)))
const toggle = (task: string) =>
  (left.value = left.value.includes(task) ? left.value.filter((x) => x !== task) : [...left.value, task])
async function done() {
  const pictures = (id: string) => send(props.treeId, 'checkup', id)
  if (await go(() => keep(tasks.value, act.value === 'stop_water' && hold.value, note.value, pictures))) emit('kept')
}
</script>

<template>
  <section class="check" :aria-label="t('checks.title')">
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <p v-if="feltNow" class="quiet">{{ t('checks.feltNow', { felt: feltNow }) }}</p>
    <template v-if="looked && !over && question">
      <CheckPicture :of="question.finding" :class="{ low: question.answers.length > 4 }" />
      <p class="quiet n">{{ t('checks.of', { n: order.length + 1 }) }}</p>
      <h2>{{ t(`checks.q.${question.finding}.title`) }}</h2>
      <p class="how">{{ t(`checks.q.${question.finding}.how`) }}</p>
      <div class="answers" role="group" :aria-label="t(`checks.q.${question.finding}.title`)">
        <ActButton
          v-for="a in question.answers"
          :key="`${question.finding}-${a}`"
          class="answer"
          :disabled="busy"
          @act="go(() => answer(a))"
        >
          <span class="word">{{ t(`checks.a.${question.finding}.${a}`) }}</span>
          <span v-if="te(`checks.hint.${question.finding}.${a}`)" class="hint">{{
            t(`checks.hint.${question.finding}.${a}`)
          }}</span>
        </ActButton>
      </div>
      <div class="ways">
        <button type="button" class="button plain" :disabled="busy" @click="skip">{{ t('checks.skip') }}</button>
        <button v-if="order.length" type="button" class="button plain" :disabled="busy" @click="go(back)">
          {{ t('checks.backOne') }}
        </button>
        <button v-if="order.length" type="button" class="button plain" :disabled="busy" @click="ended = true">
          {{ t('checks.result') }}
        </button>
        <button v-else type="button" class="button plain" @click="emit('left')">{{ t('checks.stop') }}</button>
      </div>
      <p v-if="order.length" class="sofar" role="status">
        {{ t('checks.soFar', { act: t(`checks.actSmall.${act}`) }) }}. {{ t('checks.likely', { causes: likely }) }}
      </p>
    </template>
    <template v-else-if="looked">
      <p class="quiet n">{{ t(enough && question ? 'checks.enough' : 'checks.noMore') }}</p>
      <h2 class="act" :class="{ warn: act === 'stop_water' || act === 'dead' }">{{ t(`checks.act.${act}`) }}</h2>
      <p class="how">{{ t(`checks.actWhy.${act}`) }}</p>
      <p class="verdict">
        <strong>{{ t(`checks.verdict.${looked.verdict}`) }}.</strong> {{ t('checks.likely', { causes: likely }) }}
      </p>
      <p v-if="looked.verdict !== 'sound'">{{ t('checks.lookAgain', { day: longDay(lookOn) }) }}</p>
      <p v-for="a in advice" :key="a">{{ t(`checks.advice.${a}`) }}</p>
      <fieldset v-if="looked.tasks.length || act === 'stop_water'" class="tasks">
        <legend>{{ t('checks.tasks') }}</legend>
        <label v-if="act === 'stop_water'">
          <input v-model="hold" type="checkbox" />
          <span>{{ t('checks.hold', { day: longDay(lookOn) }) }}</span>
        </label>
        <label v-for="one in looked.tasks" :key="one">
          <input type="checkbox" :checked="!left.includes(one)" @change="toggle(one)" />
          <span
            >{{ t(`task.${one}.title`) }}<span class="quiet">{{ t(`task.${one}.why`) }}</span></span
          >
        </label>
      </fieldset>
      <p v-if="looked.tasks.includes('arborist')" class="caution">{{ t('task.caution.arborist') }}</p>
      <p v-if="looked.tasks.includes('identify_pest')" class="caution">{{ t('task.caution.label') }}</p>
      <div class="field">
        <label for="check-note">{{ t('checks.note') }}</label>
        <input id="check-note" v-model="note" class="plain-input" maxlength="2000" autocomplete="off" />
      </div>
      <PictureInput id="check-pictures" :taken="taken" :disabled="busy" @add="add" @drop="drop" />
      <div class="ways">
        <ActButton class="main keep" :disabled="busy || !order.length" @act="done">{{ t('checks.keep') }}</ActButton>
        <button
          v-if="question"
          type="button"
          class="button"
          :disabled="busy"
          @click="((further = true), (ended = false))"
        >
          {{ t('checks.goOn') }}
        </button>
        <button v-if="order.length" type="button" class="button plain" :disabled="busy" @click="go(back)">
          {{ t('checks.backOne') }}
        </button>
        <button
          v-if="looked.actions.includes('remove_and_replant')"
          type="button"
          class="button plain"
          @click="emit('dead')"
        >
          {{ t('checks.end') }}
        </button>
        <button type="button" class="button plain" @click="emit('left')">{{ t('checks.stop') }}</button>
      </div>
      <EvidenceBars v-if="causes[0]" :cause="causes[0]" />
    </template>
    <p v-else-if="busy" role="status">{{ t('common.loading') }}</p>
  </section>
</template>

<style scoped>
.check {
  max-width: 620px;
}
.low {
  max-height: 64px;
}
.low ~ .answers .answer.answer {
  min-height: 56px;
}
.n {
  margin-top: var(--space-2);
}
h2 {
  font-size: var(--text-5);
  line-height: 1.15;
}
h2.act {
  font-size: var(--text-6);
}
.how {
  font-size: var(--text-2);
  margin-top: var(--space-1);
}
.answers {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: var(--space-3);
  margin-top: var(--space-3);
}
.answer.answer {
  min-height: 64px;
  display: grid;
  align-content: center;
  justify-content: start;
  justify-items: start;
  text-align: left;
  white-space: normal;
  line-height: 1.2;
  padding: var(--space-2) var(--space-3);
}
.word {
  font-size: var(--text-3);
  font-weight: 600;
}
.hint {
  font-size: var(--text-1);
  font-weight: 400;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin-top: var(--space-3);
}
.ways .button {
  min-height: 56px;
}
.keep {
  min-width: 220px;
}
.sofar {
  margin-top: var(--space-3);
  padding-top: var(--space-2);
  border-top: 1px solid var(--hair);
  color: var(--ink-2);
}
.verdict {
  margin-top: var(--space-3);
  font-size: var(--text-2);
}
.tasks {
  border: 0;
  border-top: 2px solid var(--ink);
  padding: var(--space-2) 0 0;
  margin: var(--space-4) 0 var(--space-3);
}
.tasks legend {
  font-weight: 600;
  padding-right: var(--space-2);
}
.tasks label {
  display: flex;
  gap: var(--space-3);
  align-items: start;
  min-height: 56px;
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
  font-weight: 600;
}
.tasks input {
  flex: none;
  width: 24px;
  height: 24px;
  accent-color: var(--water);
}
.tasks .quiet {
  display: block;
  font-weight: 400;
}
@media (max-width: 767px) {
  .keep {
    width: 100%;
    min-height: 64px;
  }
}
</style>
