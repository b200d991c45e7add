<script setup lang="ts">
/** A tree's drip: what to do now, the layout to scale beside its measures, whether it works, how it grows, what to bring. */
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import BigFigure from '@/components/common/BigFigure.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import WorkingLines from '@/components/common/WorkingLines.vue'
import CatchForm from '@/components/drip/CatchForm.vue'
import ChoiceFields from '@/components/drip/ChoiceFields.vue'
import CompareLayouts from '@/components/drip/CompareLayouts.vue'
import DripHistory from '@/components/drip/DripHistory.vue'
import DripPlan from '@/components/drip/DripPlan.vue'
import LaySteps from '@/components/drip/LaySteps.vue'
import DripTasks from '@/components/drip/DripTasks.vue'
import EditBar from '@/components/drip/EditBar.vue'
import DripSection from '@/components/drip/DripSection.vue'
import OtherPatterns from '@/components/drip/OtherPatterns.vue'
import ObstacleFields from '@/components/drip/ObstacleFields.vue'
import PartsList from '@/components/drip/PartsList.vue'
import ProofForm from '@/components/drip/ProofForm.vue'
import YearSlider from '@/components/drip/YearSlider.vue'
import VerdictStrip from '@/components/drip/VerdictStrip.vue'
import { useCatchWords } from '@/composables/useCatchWords'
import { useDripActs } from '@/composables/useDripActs'
import { useDripDraft } from '@/composables/useDripDraft'
import { useDripTask } from '@/composables/useDripTask'
import { useEdits } from '@/composables/useEdits'
import { pourOf } from '@/composables/useRound'
import { useHandleWords } from '@/composables/useHandleWords'
import { useHow } from '@/composables/useHow'
import { oncePainted } from '@/composables/useLater'
import { listed, longDay, monthYear } from '@/logic/dates'
import { handlesOf } from '@/logic/handles'
import { isUs, text } from '@/units'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const phone = useMediaQuery('(max-width: 767px)')
const draft = useDripDraft(() => props.id)
const { data, error, loading, load, page, choice, obstacles, typed, year, errors, measure, stand } = draft
const painted = oncePainted(() => data.value)
const grown = computed(() => page.value?.looks[Math.min(year.value, page.value.looks.length - 1)] ?? null)
const shown = computed(() => grown.value?.look ?? null)
const edits = useEdits(shown, draft)
const { editing, adding, selected, grip, step } = edits
const canEdit = computed(() => year.value === 0 && !choice.value?.inline)
watch(year, edits.stop)
const widest = computed(() => Math.max(...(page.value?.looks.map((l) => l.look.reach_m) ?? [1])))
/** While it is changed by hand the drawing keeps its scale. */
const reach = ref(1)
watch([widest, editing], () => editing.value || (reach.value = widest.value), { immediate: true })
const handles = computed(() =>
  shown.value ? handlesOf(shown.value, obstacles.value, Boolean(page.value?.line), reach.value) : [],
)
const { handleSays } = useHandleWords(choice, obstacles)
const { time } = useHow()
const laid = computed(() => Boolean(page.value?.accepted && !typed.value))
/** What lies there is shown with its very next watering, as the Water page has it; else with a usual one. */
const coming = computed(() => (laid.value && year.value === 0 ? (page.value?.next ?? null) : null))
const watering = computed(() => {
  const pour = coming.value && pourOf(coming.value)
  return pour
    ? { litres: pour.litres, run_min: pour.run_min, goes: pour.goes, depth_m: coming.value!.proof_depth_m }
    : {
        litres: shown.value?.scene.volume_l ?? 0,
        run_min: shown.value?.run.run_min ?? 0,
        goes: shown.value?.run.goes ?? { count: 1, run_min: 0, rest_min: 0, last_min: 0 },
        depth_m: shown.value?.figures.sunk_depth_m ?? 0,
      }
})
/** What its emitters are sold as: one flow, or all that there are. */
const flows = computed(() =>
  listed(
    [...new Set(shown.value?.emitters.map((e) => e.sold_as_l_per_h))].sort((a, b) => a - b).map((q) => text('flow', q)),
  ),
)
const goes = computed(() => watering.value.goes.count)
const due = computed(() => page.value?.tasks.filter((task) => task.day <= page.value!.today) ?? [])
const moved = computed(() => due.value.find((task) => task.year > 0) ?? null)
const findings = computed(() => shown.value?.findings.filter((f) => te(f.code)) ?? [])
/** Told with the numbers of their emitters, as tasks. */
const TESTED = new Set(['emitter_blocked', 'emitter_weak', 'emitter_leaking'])
const HANDLED = new Set(['wetted_fraction_low', 'wetted_fraction_high', 'run_time_short', 'run_time_long'])
const te = (code: string) => !HANDLED.has(code) && !TESTED.has(code) && !(code === 'rate_over_intake' && goes.value > 1)
const caught = computed(() => page.value?.catches.find((one) => one.in_force) ?? null)
const { busy, said, failed, accept, copyToRow, keepBeside, takeBack, carryOut } = useDripActs(() => props.id, draft)
const { task } = useDripTask()
const { flow: flowOf } = useCatchWords()
const yearWords = computed(() =>
  year.value === 0 ? t('drip.thisYear') : t('drip.inYear', { when: monthYear(shown.value!.day) }),
)
const print = () => window.print()
function patternWords(c: Schema['ChoiceIO']): string {
  return t(`drip.pattern.${c.pattern}`)
}
</script>

<template>
  <StatePanel :error="error" :loading="loading && !page" @retry="load">
    <div v-if="page && shown && choice" class="drip">
      <div class="top">
        <section class="act">
          <p class="quiet kind">{{ yearWords }}: {{ patternWords(shown.choice) }}</p>
          <p class="lead">
            <template v-if="year === 0 && moved">{{ task(moved) }}</template>
            <template v-else-if="year === 0 && !laid">{{
              t('drip.lay', { n: shown.emitters.length, flow: flows }, shown.emitters.length)
            }}</template>
            <template v-else-if="year > 0 && grown?.changes.length">{{
              task(page.tasks.find((one) => one.year === year) ?? page.tasks[0]!)
            }}</template>
            <template v-else-if="year > 0">{{ t('drip.stays') }}</template>
            <template v-else-if="coming">{{ t('drip.next', { day: longDay(coming.day) }) }}</template>
            <template v-else>{{ t('drip.runs') }}</template>
          </p>
          <p v-if="year === 0 && moved" class="quiet">{{ t('drip.until') }}</p>
          <p class="amount">
            <BigFigure dimension="volume" :value="watering.litres" :size="phone ? 52 : 64" />
            <span class="time">{{ t('drip.inTime', { time: time(watering.run_min) }) }}</span>
          </p>
          <p class="time">
            {{
              year === 0 && laid && caught
                ? t(
                    'drip.onMeasured',
                    { n: shown.emitters.length, flow: flowOf(caught.mean_l_per_h) },
                    shown.emitters.length,
                  )
                : t('drip.onEmitters', { n: shown.emitters.length, flow: flows }, shown.emitters.length)
            }}<template v-if="goes > 1"
              >,
              {{
                t('drip.goes', {
                  n: goes,
                  run: time(watering.goes.run_min),
                  rest: time(watering.goes.rest_min),
                })
              }}</template
            >
          </p>
          <p class="proofline">
            {{ t('drip.thenRod', { depth: text('small', watering.depth_m, 0) }) }}
          </p>
          <ul class="findings">
            <template v-if="year === 0">
              <li v-for="one in due.filter((d) => d.numbers.length)" :key="one.kind" class="warn">{{ task(one) }}</li>
            </template>
            <li v-for="f in findings" :key="f.code" class="warn">
              {{ t(`drip.finding.${f.code}`, { n: shown.emitters.length }) }}
            </li>
          </ul>
          <div class="buttons no-print">
            <button
              v-if="year === 0 && moved && laid"
              type="button"
              class="button main"
              :disabled="busy"
              @click="carryOut(moved)"
            >
              {{ t('drip.moved') }}
            </button>
            <button
              v-else-if="year === 0 && !laid"
              type="button"
              class="button main"
              :disabled="busy || Object.keys(errors).length > 0"
              @click="accept(choice, t('drip.kept'))"
            >
              {{ t('drip.accept') }}
            </button>
            <button v-if="typed" type="button" class="button" @click="load">{{ t('drip.undoTyped') }}</button>
            <button
              v-if="year === 0 && page.line && page.line_trees > 1"
              v-lead
              type="button"
              class="button"
              :disabled="busy || Object.keys(errors).length > 0"
              @click="copyToRow"
            >
              {{ t('drip.copy', { n: page.line_trees }) }}
            </button>
            <button type="button" class="button" @click="print">{{ t('drip.print') }}</button>
          </div>
          <p v-if="said" class="said" role="status">{{ said }}</p>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
          <p v-if="page.line" class="quiet">
            {{ t('drip.onLine', { name: page.line.name, n: page.line_trees }) }}
            <RouterLink :to="{ name: 'line', params: { id: page.line.id } }">{{ t('drip.seeLine') }}</RouterLink>
          </p>
          <p v-else class="quiet">{{ t('drip.noLine') }}</p>
        </section>
        <section class="plan">
          <DripPlan
            v-model:asked="selected"
            v-model:grip="grip"
            :look="shown"
            :size="phone ? 358 : 492"
            :crown="page.crown_radius_m"
            :mulch="page.mulch_radius_m"
            :reach="reach"
            :caught="year === 0 && laid ? caught : null"
            :editing="editing"
            :adding="adding"
            :step="step"
            :snap="edits.snap"
            :answered="errors"
            :handles="handles"
            :handle-says="handleSays"
            @move="edits.move"
            @add="edits.add"
            @remove="edits.remove"
            @hold="edits.hold"
            @nudge="edits.nudge"
          />
          <EditBar v-if="canEdit" v-lead :by="edits" :handle-says="handleSays" />
        </section>
        <YearSlider v-model="year" class="years no-print" :looks="page.looks" :words="yearWords" />
        <section class="side">
          <h2 class="ruled-head spaced">{{ t('drip.side.title') }}</h2>
          <DripSection :look="shown" :width="phone ? 358 : 492" :reach="reach" />
        </section>
        <section class="six">
          <h2 class="ruled-head spaced">{{ t('drip.works') }}</h2>
          <p v-if="coming" class="quiet">
            {{ t('drip.forUsual', { litres: text('volume', shown.scene.volume_l), n: Math.round(shown.run.run_min) }) }}
          </p>
          <VerdictStrip :look="shown" />
        </section>
        <section class="measures no-print">
          <h2 class="ruled-head spaced">{{ t('drip.measures') }}</h2>
          <ChoiceFields
            :model-value="choice"
            :errors="errors"
            :in-row="Boolean(page.line)"
            @update:model-value="measure"
          />
        </section>
      </div>
      <p class="caution">{{ t('drip.caution') }}</p>
      <div v-if="painted" class="lower">
        <section>
          <h2 class="ruled-head spaced">{{ t('drip.parts') }}</h2>
          <PartsList :parts="year > 0 && grown?.new_parts.length ? grown.new_parts : shown.parts" />
          <p v-if="year > 0 && grown?.new_parts.length" class="quiet">{{ t('drip.onlyNew') }}</p>
          <p class="files no-print">
            <a :href="`/api/trees/${id}/drip.csv`">{{ t('drip.file.csv') }}</a>
            <a :href="`/api/trees/${id}/drip.svg`">{{ t('drip.file.svg') }}</a>
            <a v-if="page.tree.latitude_deg !== null" :href="`/api/trees/${id}/drip.geojson`">{{
              t('drip.file.geojson')
            }}</a>
          </p>
        </section>
        <section>
          <h2 class="ruled-head spaced">{{ t('drip.steps.title') }}</h2>
          <LaySteps :look="shown" />
        </section>
        <section>
          <h2 class="ruled-head spaced">{{ t('drip.tasks') }}</h2>
          <DripTasks :tasks="page.tasks" :today="page.today" :laid="laid" :busy="busy" @done="carryOut" />
        </section>
        <section class="no-print">
          <h2 class="ruled-head spaced">{{ t('drip.proof.title') }}</h2>
          <ProofForm :tree-id="id" :proofs="page.proofs" @changed="load" />
        </section>
        <section v-if="page.layout" id="catch" class="no-print">
          <h2 class="ruled-head spaced">{{ t('drip.catch.title') }}</h2>
          <CatchForm :key="id" :tree-id="id" :emitters="page.layout.emitters" :tests="page.catches" @changed="load" />
        </section>
        <section class="no-print">
          <h2 class="ruled-head spaced">{{ t('drip.beside.title') }}</h2>
          <ObstacleFields :model-value="obstacles" :errors="errors" @update:model-value="stand" />
          <div class="buttons">
            <button type="button" class="button" :disabled="busy" @click="keepBeside(false)">
              {{ t('drip.beside.keep') }}
            </button>
            <button v-if="page.line" type="button" class="button" :disabled="busy" @click="keepBeside(true)">
              {{ t('drip.beside.keepLine', { n: page.line_trees }) }}
            </button>
          </div>
        </section>
        <section class="no-print">
          <h2 class="ruled-head spaced">{{ t('drip.others') }}</h2>
          <OtherPatterns :suggestions="page.suggestions" @try="(c) => measure({ ...c })" />
        </section>
        <section class="no-print wide">
          <h2 class="ruled-head spaced">{{ t('drip.compare.title') }}</h2>
          <CompareLayouts
            :tree-id="id"
            :choice="choice"
            :obstacles="obstacles"
            :typed="typed"
            @try="(c) => measure({ ...c })"
          />
        </section>
        <section class="no-print">
          <h2 class="ruled-head spaced">{{ t('drip.history') }}</h2>
          <DripHistory :layout="page.layout" :history="page.history" :busy="busy" @back="takeBack" />
        </section>
        <section class="no-print">
          <h2 class="ruled-head spaced">{{ t('treePage.workingFor') }}</h2>
          <WorkingLines :lines="shown.working" />
        </section>
      </div>
      <p class="visually-hidden">{{ isUs ? t('units.us') : t('units.metric') }}</p>
    </div>
  </StatePanel>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: 492px minmax(0, 616px);
  grid-template-areas: 'plan act' 'plan six' 'years six' 'side measures';
  grid-template-rows: auto auto auto 1fr;
  gap: var(--space-4) var(--space-7);
  align-items: start;
}
.act {
  grid-area: act;
}
.plan {
  grid-area: plan;
}
.years {
  grid-area: years;
}
.side {
  grid-area: side;
}
.six {
  grid-area: six;
}
.measures {
  grid-area: measures;
}
.six h2 {
  margin-bottom: 0;
}
.lead {
  font-size: var(--text-5);
  font-weight: 600;
  line-height: 1.2;
  margin: 2px 0 var(--space-2);
}
.amount {
  display: flex;
  align-items: baseline;
  gap: var(--space-4);
  flex-wrap: wrap;
}
.amount .time {
  font-size: var(--text-6);
  font-weight: 600;
}
.time {
  font-size: var(--text-3);
  font-weight: 500;
}
.proofline {
  font-size: var(--text-3);
}
.findings {
  display: grid;
  gap: var(--space-1);
  margin: var(--space-2) 0;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
.caution {
  margin: var(--space-5) 0;
}
.lower {
  display: grid;
  grid-template-columns: minmax(0, 548px) minmax(0, 560px);
  gap: var(--space-6) var(--space-7);
  align-items: start;
}
.lower .wide {
  grid-column: 1 / -1;
}
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-5);
}
.files a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
@media (max-width: 1023px) {
  .top {
    grid-template-columns: minmax(0, 1fr);
    grid-template-areas: 'act' 'plan' 'years' 'six' 'side' 'measures';
    grid-template-rows: none;
  }
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 767px) {
  .lead {
    font-size: var(--text-4);
  }
  .amount .time {
    font-size: var(--text-5);
  }
}
@media print {
  .top {
    grid-template-columns: 92mm 1fr;
    grid-template-areas: 'plan act' 'plan six' 'side six';
    grid-template-rows: auto auto auto;
    gap: 2mm 6mm;
  }
  .top .amount :deep(.big) {
    font-size: 30pt !important;
  }
  .amount .time {
    font-size: 18pt;
  }
  .lower {
    grid-template-columns: 92mm 1fr;
    gap: 3mm 6mm;
  }
  .lead {
    font-size: 14pt;
  }
  h2 {
    font-size: 12pt;
  }
  .side :deep(svg) {
    max-width: 92mm;
  }
  .drip :deep(td),
  .drip :deep(th),
  .lower :deep(li) {
    padding-top: 0.6mm;
    padding-bottom: 0.6mm;
    min-height: 0;
    font-size: 10.5pt;
  }
  .caution {
    margin: 2mm 0;
    font-size: 9.5pt;
  }
}
</style>
