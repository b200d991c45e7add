<script setup lang="ts">
/** Today is the load running down. What is largest changes with the moment: the load, the tree, the end of the day. */
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import BoxesToday from '@/components/today/BoxesToday.vue'
import ProbesToday from '@/components/today/ProbesToday.vue'
import CareToday from '@/components/today/CareToday.vue'
import ClockRow from '@/components/today/ClockRow.vue'
import CurrentTree from '@/components/today/CurrentTree.vue'
import FirstSteps from '@/components/today/FirstSteps.vue'
import EveningList from '@/components/today/EveningList.vue'
import PlanBack from '@/components/today/PlanBack.vue'
import NearestTree from '@/components/today/NearestTree.vue'
import LookAtList from '@/components/today/LookAtList.vue'
import LoadBar from '@/components/today/LoadBar.vue'
import PrintRound from '@/components/today/PrintRound.vue'
import RoundList from '@/components/today/RoundList.vue'
import SinceLooked from '@/components/today/SinceLooked.vue'
import WaitingList from '@/components/today/WaitingList.vue'
import { useBoxesToday } from '@/composables/useBoxesToday'
import { useHow } from '@/composables/useHow'
import { usePageTitle } from '@/composables/usePageTitle'
import { useKeys } from '@/composables/useKeys'
import { later, oncePainted, onceOpen } from '@/composables/useLater'
import { pourOf, useRound, type Row } from '@/composables/useRound'
import { useRoundActs } from '@/composables/useRoundActs'
import { fullDay, moment, weekday } from '@/logic/dates'
import { knownMs } from '@/offline/time'
import { text } from '@/units'
import { money } from '@/logic/numbers'

const FeelDialog = later(() => import('@/components/looking/FeelDialog.vue'))
const DayChanged = later(() => import('@/components/today/DayChanged.vue'))
const OtherDialog = later(() => import('@/components/today/OtherDialog.vue'))
const WrongTreeDialog = later(() => import('@/components/today/WrongTreeDialog.vue'))
const EndDialog = later(() => import('@/components/trees/EndDialog.vue'))
const { t } = useI18n()
const wide = useMediaQuery('(min-width: 768px)')
/** The list stands beside the tree: on a tablet it comes below, where nothing of it is cut. */
const beside = useMediaQuery('(min-width: 1101px)')
const round = useRound()
usePageTitle(() => t('today.title'))
const {
  data,
  crew,
  crews,
  ofCrew,
  isAhead,
  changes,
  error,
  loading,
  load,
  rows,
  open,
  skipped,
  current,
  after,
  chosen,
  groups,
  done,
  all,
} = round
const { time } = useHow()
const { boxes, put: putBox, runOf } = useBoxesToday(computed(() => data.value?.day))
const painted = oncePainted(() => data.value)
const acts = useRoundActs(round)
const { busy, said, failed, running, ticking, now, ran, other, gone, stopClock } = acts
const otherAsked = onceOpen(other)
const {
  logPlanned,
  runClock,
  openOther,
  logOther,
  logSkip,
  logSeen,
  logWhole,
  undoEntry,
  feeling,
  felt,
  openFeel,
  logFelt,
} = acts

const aheadWords = computed(() =>
  rows.value.length || !data.value
    ? t('signal.ahead', { at: moment(new Date(knownMs.value).toISOString()) })
    : t('signal.aheadNone'),
)
const startedKey = computed(() => `june-shade-started-${data.value?.day}`)
const started = ref(false)
watch(data, (round) => {
  if (round) started.value = done.value > 0 || sessionStorage.getItem(startedKey.value) === '1'
})
const endedKey = computed(() => `june-shade-ended-${data.value?.day}`)
const ended = ref(false)
watch(data, (round) => {
  if (round) ended.value = sessionStorage.getItem(endedKey.value) === '1'
})
function end(now: boolean) {
  sessionStorage.setItem(endedKey.value, now ? '1' : '0')
  ended.value = now
  window.scrollTo({ top: 0 })
}
/** Clocks that the tree in hand does not show: all of them in the yard and once the day is ended. */
const clocks = computed(() =>
  running.value.filter((r) => ended.value || inYard.value || r.clock.treeId !== current.value?.tree.id),
)
const missed = computed(() => [...open.value, ...skipped.value])
const dryByBalance = computed(() => (data.value?.sites ?? []).filter((s) => s.dry_by_balance.length))
const daysOff = computed(() => (data.value?.sites ?? []).filter((s) => s.day_off))
const priced = computed(() => (data.value?.sites ?? []).filter((s) => s.cost))
const work = computed(() => {
  const w = data.value?.work
  if (!w) return null
  const words = t(w.over ? 'today.workOver' : 'today.work', { time: time(w.minutes), hours: time(w.has_min) })
  return { over: w.over, words }
})
/** Nothing is left to pour: since all have enough, or since the rest waits. */
const over = computed(() => {
  const waiting = (data.value?.sites ?? []).reduce((n, site) => n + site.waiting.length, 0)
  if (done.value > 0) {
    const amount = text('volume', done.value, 0)
    return {
      title: t(waiting ? 'today.dayDone' : 'today.allDone'),
      words: t('today.allDoneWords', { amount, n: wateredTrees.value }, wateredTrees.value),
    }
  }
  return waiting
    ? { title: t('today.noneLeft'), words: t('today.noneLeftWords', { n: waiting }, waiting) }
    : { title: t('today.nothing'), words: t('today.nothingWords') }
})
const changed = ref(false)
const changedAsked = onceOpen(changed)
function start() {
  sessionStorage.setItem(startedKey.value, '1')
  started.value = true
}
const inYard = computed(() => !started.value && open.value.length > 0)
const currentKey = computed(() =>
  current.value && !inYard.value ? `${current.value.site.id}/${current.value.stop}` : null,
)
const cautions = computed(() => {
  const found = new Map<string, string>()
  for (const site of data.value?.sites ?? []) {
    for (const code of site.stops.length ? site.cautions : []) {
      found.set(code, t(`caution.${code}`, { high: site.high_c === null ? '' : text('temperature', site.high_c!) }))
    }
  }
  return [...found.values()]
})
const problems = computed(() => (data.value?.sites ?? []).filter((s) => s.problem))
const ready = computed(() => (data.value?.sites ?? []).reduce((n, s) => n + s.ready, 0))
const guessed = computed(() => (data.value?.sites ?? []).reduce((n, s) => n + s.guessed, 0))
const ahead = computed(() => {
  const told = (data.value?.sites ?? []).filter((s) => s.stops.length && s.forecast !== 'fresh')
  const all = told.length === (data.value?.sites ?? []).filter((s) => s.stops.length).length
  const same = new Set(told.map((s) => s.forecast)).size === 1
  return all && same ? [t(`ahead.${told[0]!.forecast}`)] : told.map((s) => `${s.name}: ${t(`ahead.${s.forecast}`)}`)
})
const filled = computed(() => (data.value?.sites ?? []).some((s) => s.filled && s.stops.length))
const wateredTrees = computed(() => rows.value.filter((r) => r.tree.entries.some((e) => e.volume_l)).length)

const wrong = ref<{ row: Row; entry: Schema['EntryOut'] } | null>(null)
const wrongOpen = ref(false)
function askWrong(row: Row, entry: Schema['EntryOut']) {
  wrong.value = { row, entry }
  wrongOpen.value = true
}
useKeys((key) => {
  if (key === 'w' && current.value) openOther()
})
const print = () => window.print()
function pick(id: string) {
  start()
  ended.value = false
  if (!open.value.some((r) => r.tree.id === id)) stopClock(id)
  chosen.value = id
  if (!wide.value) window.scrollTo({ top: 0 })
}
</script>

<template>
  <div class="today">
    <h1 class="visually-hidden">{{ t('today.title') }}</h1>
    <StatePanel :error="error" :loading="loading && !data" :empty="data?.trees === 0" @retry="load">
      <template #empty>
        <FirstSteps />
      </template>
      <template v-if="data">
        <LoadBar v-if="all > 0" :groups="groups" :done="done" :all="all" :current-key="currentKey" />
        <div class="halves">
          <div class="left">
            <p class="day narrow">{{ weekday(data.day) }}, {{ fullDay(data.day) }}</p>
            <p v-if="isAhead" class="warn no-print">{{ aheadWords }}</p>
            <PlanBack v-if="changes" :changes="changes" @seen="changes = null" />
            <label v-if="crews.length > 1" class="whose no-print">
              <span>{{ t('today.whose') }}</span>
              <select :value="ofCrew" @change="crew = ($event.target as HTMLSelectElement).value">
                <option value="">{{ t('today.everyone') }}</option>
                <option v-for="c in crews" :key="c.id" :value="c.id">{{ c.name }}</option>
              </select>
            </label>
            <section v-if="inYard" class="yard">
              <h2>{{ t('today.load') }}</h2>
              <BigFigure dimension="volume" :value="all - done" :digits="0" :size="wide ? 112 : 88" />
              <p class="for">
                {{
                  t('today.loadFor', { trees: t('trees.count', open.length), stops: t('today.nStops', groups.length) })
                }}
              </p>
              <ul v-if="cautions.length" class="cautions">
                <li v-for="c in cautions" :key="c">{{ c }}</li>
              </ul>
              <p v-if="work" :class="{ warn: work.over }">{{ work.words }}</p>
              <ActButton class="main start" @act="start">{{ t('today.start') }}</ActButton>
              <ActButton v-if="crews.length" class="plain no-print" @act="changed = true">{{
                t('today.changed.ask')
              }}</ActButton>
              <ActButton class="plain no-print" @act="print">{{ t('today.print') }}</ActButton>
            </section>
            <section v-else-if="ended && done + missed.length > 0" class="yard">
              <h2>{{ missed.length ? t('today.evening', missed.length) : t('today.eveningAll') }}</h2>
              <EveningList :rows="missed" />
              <p v-for="s in priced" :key="s.id">{{ t('today.cost', { site: s.name, cost: money(s.cost!) }) }}</p>
              <ActButton @act="end(false)">{{ t('today.backToRound') }}</ActButton>
            </section>
            <CurrentTree
              v-else-if="current"
              :row="current"
              :after="after"
              :by-itself="runOf(current.site.id, current.tree.line?.name)"
              :wide="wide"
              :busy="busy"
              :ticking="ticking"
              :now="now"
              @done="logPlanned"
              @other="openOther"
              @clock="runClock"
              @feel="openFeel"
            />
            <section v-else class="yard">
              <h2>{{ over.title }}</h2>
              <BigFigure v-if="done > 0" dimension="volume" :value="done" :digits="0" :size="wide ? 112 : 88" />
              <p class="for">
                {{ over.words }}
              </p>
            </section>
            <section v-if="clocks.length" class="clocks">
              <h3>{{ t('today.running') }}</h3>
              <ClockRow
                v-for="r in clocks"
                :key="r.clock.treeId"
                :clock="r.clock"
                :phase="r.phase"
                :zone="rows.find((x) => x.tree.id === r.clock.treeId)?.site.zone ?? data.sites[0]!.zone"
                :now="now"
                @pick="pick(r.clock.treeId)"
              />
            </section>
            <p class="said" role="status">{{ said }}</p>
            <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
            <ul v-if="!inYard && cautions.length" class="cautions after">
              <li v-for="c in cautions" :key="c">{{ c }}</li>
            </ul>
            <p v-for="words in ahead" :key="words" class="warn">{{ words }}</p>
            <LookAtList v-if="beside && !ended" :sites="data.sites" :minutes="data.look_minutes" />
            <BoxesToday v-if="painted" :boxes="boxes" @changed="putBox" />
            <ProbesToday v-if="painted" :day="data.day" />
            <CareToday v-if="beside" :sites="data.sites" :day="data.day" @changed="load" />
            <p v-for="s in problems" :key="s.id" class="warn">
              {{ s.name }}: {{ s.problem }}
              <RouterLink :to="{ name: 'weather' }">{{ t('treePage.mendWeather') }}</RouterLink>
            </p>
            <p v-for="s in dryByBalance" :key="s.id" class="warn">
              {{ t('rehearse.dryByBalance', { tags: s.dry_by_balance.join(', ') }, s.dry_by_balance.length) }}
            </p>
            <p v-for="s in daysOff" :key="s.id">{{ t('today.dayOff', { site: s.name }) }}</p>
            <p v-if="filled" class="warn">{{ t('today.filled') }}</p>
          </div>
          <section v-if="painted" class="right" :aria-label="t('today.stops')">
            <LookAtList v-if="!beside && !ended" class="above" :sites="data.sites" :minutes="data.look_minutes" />
            <NearestTree v-if="!ended && open.length > 1" :rows="open" @pick="pick" />
            <RoundList
              :groups="groups"
              :run-of="runOf"
              :current-id="inYard ? null : (current?.tree.id ?? null)"
              :busy="busy"
              @pick="pick"
              @undo="undoEntry"
              @wrong="askWrong"
              @whole="logWhole"
            />
            <WaitingList v-if="!ended" :sites="data.sites" />
            <ActButton v-if="crews.length && !inYard && !ended" class="plain foot no-print" @act="changed = true">{{
              t('today.changed.ask')
            }}</ActButton>
            <ActButton v-if="!inYard && !ended && rows.length" class="plain foot no-print" @act="end(true)">{{
              t('today.endDay')
            }}</ActButton>
            <CareToday v-if="!beside" :sites="data.sites" :day="data.day" @changed="load" />
            <SinceLooked />
            <p v-if="ready" class="quiet foot">{{ t('today.ready', { n: ready }, ready) }}</p>
            <p v-if="guessed" class="quiet foot">{{ t('today.guessed', { n: guessed }, guessed) }}</p>
          </section>
        </div>
        <OtherDialog
          v-if="current && otherAsked"
          v-model:open="other"
          :title="`${current.tree.tag} ${current.tree.place}`"
          :planned="pourOf(current.tree.next!).litres"
          :suggested="ran?.litres"
          :see="logSeen"
          :failed="failed"
          @log="logOther"
          @skip="logSkip"
        />
        <FeelDialog
          v-if="felt"
          v-model:open="feeling"
          :title="t('feel.title', { tag: felt.tree.tag })"
          :busy="busy"
          :said="said"
          :failed="failed"
          :keep="logFelt"
        />
        <WrongTreeDialog
          v-if="wrong"
          v-model:open="wrongOpen"
          :site-id="wrong.row.site.id"
          :stop="wrong.row.stop"
          :from="wrong.row.tree"
          @move="(tree) => acts.moveEntry(wrong!.entry, tree)"
        />
        <DayChanged v-if="changedAsked" v-model:open="changed" :crews="crews" :day="data.day" @planned="load" />
        <PrintRound v-if="painted" :day="data.day" :groups="groups" :total="all - done" :notes="ahead" />
      </template>
    </StatePanel>
    <EndDialog v-if="gone" :open="true" :tree="gone" @update:open="(open) => !open && (gone = null)" @ended="load" />
  </div>
</template>

<style scoped>
.clocks {
  margin-top: var(--space-5);
}
.clocks h3 {
  font-size: var(--text-2);
  border-bottom: 2px solid var(--ink);
}
.today {
  padding: var(--space-5) var(--space-6) var(--space-7);
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 600px) minmax(0, 1fr);
  gap: var(--space-8);
  margin-top: var(--space-5);
  max-width: 1240px;
}
.day {
  font-size: var(--text-2);
  color: var(--ink-2);
  margin-bottom: var(--space-2);
}
.whose {
  display: flex;
  align-items: center;
  gap: var(--space-3);
  margin-bottom: var(--space-3);
}
.whose select {
  min-height: 56px;
  flex: 1;
  max-width: 300px;
}
.yard {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
.yard h2 {
  font-size: var(--text-5);
}
.yard .for {
  font-size: var(--text-3);
}
.start {
  min-height: 64px;
  min-width: 300px;
  font-size: var(--text-4);
  margin-top: var(--space-3);
}
.cautions {
  display: grid;
  gap: var(--space-2);
  border-left: 4px solid var(--ink);
  padding-left: var(--space-3);
  max-width: 56ch;
}
.cautions.after {
  margin-top: var(--space-5);
}
.said {
  min-height: 24px;
  margin-top: var(--space-2);
  color: var(--ink-2);
}
.look.above {
  margin: 0 0 var(--space-5);
}
.foot {
  margin-top: var(--space-4);
}
@media (max-width: 1100px) {
  .halves {
    gap: var(--space-6);
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 767px) {
  .today {
    padding: var(--space-3) var(--space-4) var(--space-6);
  }
  .halves {
    grid-template-columns: minmax(0, 1fr);
    margin-top: var(--space-2);
    gap: var(--space-5);
  }
  .day {
    display: none;
  }
  .start {
    width: 100%;
  }
}
</style>
