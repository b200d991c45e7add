<script setup lang="ts">
/** A tree's water: the cutaway and the chart on one soil line, the next watering above it, the sum and the log below. */
import { useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { lost } from '@/api/connection'
import { api, take, type Schema } from '@/api/client'
import SoilLine from '@/components/chart/SoilLine.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import FollowsRoutine from '@/components/rehearse/FollowsRoutine.vue'
import WorkingLines from '@/components/common/WorkingLines.vue'
import ModeChoice from '@/components/site/ModeChoice.vue'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import BookRules from '@/components/water/BookRules.vue'
import NextWatering from '@/components/water/NextWatering.vue'
import SoilScene from '@/components/water/SoilScene.vue'
import TreeLog from '@/components/water/TreeLog.vue'
import TreePlace from '@/components/water/TreePlace.vue'
import AmountDialog from '@/components/today/AmountDialog.vue'
import { useActing } from '@/composables/useActing'
import { dayCount } from '@/composables/useDay'
import { useFeeling } from '@/composables/useFeeling'
import { useKeys } from '@/composables/useKeys'
import { later, onceOpen } from '@/composables/useLater'
import { useLogging } from '@/composables/useLogging'
import { useDevice } from '@/composables/useDevice'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'
import { toldAnew, useOutbox } from '@/offline/outbox'
import { overLog } from '@/offline/overlay'
import { pourOf } from '@/composables/useRound'
import { longDay, monthYear } from '@/logic/dates'
import { text } from '@/units'

const FeelDialog = later(() => import('@/components/looking/FeelDialog.vue'))
const props = defineProps<{ id: string }>()
const { t } = useI18n()
const wide = useMediaQuery('(min-width: 1024px)')
const path = computed(() => ({ tree_id: props.id }))
const again = [() => props.id, dayCount]
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}/water', { params: { path: path.value }, signal })),
  again,
  { live: true },
)
const { data: stored, load: loadLog } = useResource(
  async (signal) => {
    const asked_ms = performance.now()
    const log = await take(api.GET('/api/trees/{tree_id}/log', { params: { path: path.value }, signal }))
    if (!lost.value) toldAnew(asked_ms)
    return log
  },
  again,
  { live: true },
)
const { overlaid } = useOutbox()
const { me } = useSession()
const { person } = useDevice()
const entries = computed(() => {
  const who = me.value?.name ?? person.value?.name ?? null
  return stored.value && overLog(stored.value, props.id, overlaid.value, data.value?.zone ?? 'UTC', who)
})
const { water, waterLine, note, feel, probe, feltInstead, undo, correct } = useLogging()
const { busy, said, failed, act } = useActing(() => Promise.all([load(), loadLog()]))
const other = ref(false)
const correcting = ref<Schema['EntryOut'] | null>(null)
useKeys((key) => {
  if (key === 'w') other.value = true
})
const ABOVE = 104
const BELOW = 236

/** What the figure is made of, and apart from it the steps down to measures and weather. */
const MAIN = new Set(
  'dryness demand routine_day routine ready_day due_day net leaching line_run gross day_most pour pour_today minutes goes rest proof_area'.split(
    ' ',
  ),
)
const sum = computed(() => {
  const lines = data.value?.working ?? []
  return { main: lines.filter((l) => MAIN.has(l.key)), steps: lines.filter((l) => !MAIN.has(l.key)) }
})
const tag = computed(() => data.value?.tree.tag ?? '')
/** Someone stood there and found it wet, and nothing was poured since: the plan should hear how it feels. */
const foundWet = computed(() => {
  const last = (entries.value ?? []).find((e) => !e.voided && (e.kind === 'water' || e.kind === 'skip'))
  return last?.reason === 'soil_wet' && data.value?.next ? last : null
})
/** A line that is not due today may have been opened for this tree alone, by hand. */
const dueNow = computed(() => data.value?.next?.day === data.value?.today)
const planned = computed(() => (data.value?.next ? pourOf(data.value.next).litres : 20))
const established = computed(() => {
  const s = data.value?.section
  if (!s) return ''
  if (s.established_share >= 1) return t('cutaway.established_now')
  return s.established_on
    ? t('cutaway.established', { when: monthYear(s.established_on) })
    : t('cutaway.established_far')
})
const mulchWord = computed(() => {
  const s = data.value?.section
  return s && s.mulch_outer_radius_m ? t('cutaway.mulch', { depth: text('small', s.mulch_depth_m, 0) }) : ''
})
function logWater(litres: number, minutes: number | null) {
  const line = dueNow.value ? data.value!.line : null
  void act(
    () => (line ? waterLine(line, props.id, litres, minutes) : water(props.id, litres, minutes)),
    line
      ? t('today.loggedLine', { line: line.name, n: line.shares.length }, line.shares.length)
      : t('today.logged', { tag: tag.value, amount: text('volume', litres) }),
  )
}
function done() {
  const pour = pourOf(data.value!.next!)
  logWater(pour.litres, Math.round(pour.run_min * 10) / 10)
}
const feeling = ref(false)
/** The reading that is put right, null where a new one is taken. */
const felt = ref<Schema['EntryOut'] | null>(null)
function feelIt(was: Schema['EntryOut'] | null = null) {
  felt.value = was
  feeling.value = true
}
const feelingAsked = onceOpen(feeling)
const { answer } = useFeeling()
/** The page answers at once: what it was taken for, what it is now, what to do. */
const keepFelt: InstanceType<typeof FeelDialog>['$props']['keep'] = async (how, where, what) => {
  const was = data.value!.dryness
  const wrong = felt.value
  const kept = await act(() => (wrong ? feltInstead(wrong, how, where, what) : feel(props.id, how, where, what)), '')
  if (kept && data.value) said.value = answer(was, data.value)
  return Boolean(kept)
}
const keepProbe = async (ball: number | null, ring: number | null) => {
  const was = data.value!.dryness
  const kept = await act(() => probe(props.id, ball, ring), '', { typed: false })
  if (kept && data.value) said.value = answer(was, data.value)
  return kept
}
const compares = ref(false)
function goBy(mode: Schema['WaterPageOut']['mode']) {
  void act(
    () => take(api.POST('/api/trees/same', { body: { trees: [props.id], set: { mode } } })),
    t('mode.set', { mode: t(`mode.${mode}`) }),
  )
}
function budsBroke() {
  void act(() => note(props.id, '', 'bud_break'), t('treePage.budsNoted'))
}
function change(litres: number) {
  const entry = correcting.value!
  void act(() => correct(entry, litres), t('today.logged', { tag: tag.value, amount: text('volume', litres) }))
}
</script>

<template>
  <StatePanel :error="error" :loading="loading && !data" @retry="load">
    <template #mend>
      <RouterLink class="button main" :to="{ name: 'weather' }">{{ t('treePage.mendWeather') }}</RouterLink>
    </template>
    <template v-if="data">
      <SoilScene :above="ABOVE" :below="BELOW + 30">
        <template #drawing="{ width, height, ground, phone }">
          <CutawayDrawing
            :section="data.section"
            :size="phone ? 'medium' : 'large'"
            :labels="!phone"
            :width="width"
            :height="height"
            :ground="ground"
            :proof-m="phone ? (data.next?.proof_depth_m ?? null) : null"
            :mulch-label="mulchWord"
          />
        </template>
        <template #act>
          <NextWatering :page="data" :busy="busy" @done="done" @other="other = true" @feel="feelIt()" />
        </template>
        <template #hang>
          <SoilLine
            :days="data.chart"
            :today="data.today"
            :limit="data.dryness_limit"
            :readings="data.readings"
            :width="wide ? 560 : 760"
            :above="ABOVE"
            :below="BELOW"
            :scrolls="!wide"
          />
        </template>
      </SoilScene>
      <div class="notes">
        <p class="said" role="status">{{ said }}</p>
        <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
        <p v-if="data.guessed" class="warn">
          {{ t('treePage.guessed') }}
          <button type="button" class="button plain" @click="feelIt()">{{ t('treePage.tellFeel') }}</button>
        </p>
        <p v-if="data.awaits_bud_break" class="bud">
          {{ t('treePage.budBreak') }}
          <button type="button" class="button" :disabled="busy" @click="budsBroke">
            {{ t('treePage.budsBroke') }}
          </button>
        </p>
        <p v-if="foundWet" class="warn">
          {{ t('treePage.foundWet', { day: longDay(foundWet.local_date), dry: Math.round(100 * data.dryness) }) }}
          <button type="button" class="button plain" @click="feelIt()">{{ t('treePage.tellFeel') }}</button>
        </p>
        <p v-if="data.filled" class="warn">{{ t('treePage.filled') }}</p>
        <p v-if="data.forecast !== 'fresh'" class="warn">{{ t(`ahead.${data.forecast}`) }}</p>
        <FollowsRoutine
          v-if="data.routine && data.routine.routine.name !== 'balance'"
          :tree-id="id"
          :routine="data.routine.routine"
          :today="data.today"
          :busy="busy"
          @balance="(send) => act(send, t('rehearse.used', { name: t('rehearse.name.balance'), n: 1 }, 1))"
        />
        <p v-for="c in data.cautions" :key="c">{{ t(`caution.${c}`, { high: text('temperature', data.high_c) }) }}</p>
        <p class="quiet">
          {{ established }}
          <RouterLink v-if="!data.reservoir" :to="{ name: 'rehearse', query: { tree: id } }">{{
            t('rehearse.tryOthers')
          }}</RouterLink>
        </p>
      </div>
      <div class="lower">
        <section id="sum">
          <h2 class="ruled-head">{{ t('treePage.workingFor') }}</h2>
          <p v-if="data.working[0]?.day" class="quiet">
            {{ t('treePage.workingDay', { day: longDay(data.working[0].day) }) }}
          </p>
          <WorkingLines :lines="sum.main" />
          <details class="steps">
            <summary>{{ t('treePage.workingSteps', { n: sum.steps.length }) }}</summary>
            <WorkingLines :lines="sum.steps" :of="data.working[0]?.day" />
          </details>
          <BookRules :book="data.book" />
        </section>
        <TreeLog
          :entries="entries ?? []"
          :zone="data.zone"
          :busy="busy"
          :keep="(words, entry, send) => act(() => note(id, words, null, entry, send), t('treePage.noted'))"
          @undo="(e) => act(() => undo(e), t('today.undone', { tag }))"
          @correct="(e) => (e.kind === 'reading' ? feelIt(e) : (correcting = e))"
        />
      </div>
      <TreePlace :tree-id="id" />
      <details class="modes" @toggle="compares = ($event.target as HTMLDetailsElement).open">
        <summary>{{ t('mode.ofTree') }}</summary>
        <ModeChoice
          v-if="compares"
          :site-id="data.tree.site_id"
          :tree-id="id"
          :mode="data.mode"
          :busy="busy"
          @use="goBy"
        />
      </details>
      <FeelDialog
        v-if="feelingAsked"
        v-model:open="feeling"
        :title="t(felt ? 'feel.change' : 'feel.title', { tag })"
        :was="felt"
        :busy="busy"
        :said="said"
        :failed="failed"
        :keep="keepFelt"
        :keep-probe="keepProbe"
      />
      <AmountDialog v-model:open="other" :title="tag" :planned="planned" @log="(l) => logWater(l, null)" />
      <AmountDialog
        :open="correcting !== null"
        :title="`${t('common.change')} ${tag}`"
        :planned="correcting?.volume_l ?? planned"
        @update:open="(o) => !o && (correcting = null)"
        @log="change"
      />
    </template>
  </StatePanel>
</template>

<style scoped>
.notes {
  display: grid;
  gap: var(--space-2);
  margin: var(--space-3) 0 var(--space-6);
  max-width: 1144px;
}
.steps summary {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  cursor: pointer;
  text-decoration: underline;
}
.modes {
  margin-top: var(--space-6);
}
.modes summary {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--water);
  text-decoration: underline;
  text-underline-offset: 4px;
}
.bud {
  display: flex;
  gap: var(--space-2) var(--space-4);
  align-items: center;
  flex-wrap: wrap;
}
.lower {
  display: grid;
  grid-template-columns: minmax(0, 548px) minmax(0, 560px);
  gap: var(--space-7);
  align-items: start;
}
#sum {
  scroll-margin-top: var(--space-4);
}
@media (max-width: 1023px) {
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
  .lower section:first-child {
    order: 2;
  }
}
</style>
