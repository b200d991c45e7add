<script setup lang="ts">
/** Today is the load running down. What is largest changes with the moment: the load, the tree, the end of the day. */
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import AmountDialog from '@/components/today/AmountDialog.vue'
import CurrentTree from '@/components/today/CurrentTree.vue'
import LoadBar from '@/components/today/LoadBar.vue'
import RoundList from '@/components/today/RoundList.vue'
import { useActing } from '@/composables/useActing'
import { useLogging } from '@/composables/useLogging'
import { pourOf, useRound, type Row } from '@/composables/useRound'
import { fullDay, weekday } from '@/logic/dates'
import { text } from '@/units'

const { t } = useI18n()
const wide = useMediaQuery('(min-width: 768px)')
const { data, error, loading, load, rows, open, current, after, chosen, groups, done, all } = useRound()
const { water, undo } = useLogging()
const { busy, said, failed, act } = useActing(load)
const other = ref(false)

const startedKey = computed(() => `june-shade-started-${data.value?.day}`)
const started = ref(false)
watch(data, (round) => {
  if (round) started.value = done.value > 0 || sessionStorage.getItem(startedKey.value) === '1'
})
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
const filled = computed(() => (data.value?.sites ?? []).some((s) => s.filled && s.stops.length))
const wateredTrees = computed(() => rows.value.filter((r) => r.tree.entries.some((e) => e.volume_l)).length)

function logWater(row: Row, litres: number, minutes: number | null) {
  const words = t('today.logged', { tag: row.tree.tag, amount: text('volume', litres) })
  return act(async () => {
    const entry = await water(row.tree.id, litres, minutes)
    if (entry !== null && chosen.value === row.tree.id) chosen.value = after.value?.tree.id ?? null
    return entry
  }, words)
}
function logPlanned() {
  const row = current.value
  if (!row) return
  const pour = pourOf(row.tree.next!)
  void logWater(row, pour.litres, Math.round(pour.run_min * 10) / 10)
}
function undoEntry(entry: Schema['EntryOut']) {
  const tag = rows.value.find((r) => r.tree.id === entry.tree_id)?.tree.tag ?? ''
  void act(() => undo(entry), t('today.undone', { tag }))
}
function pick(id: string) {
  start()
  chosen.value = id
  if (!wide.value) window.scrollTo({ top: 0 })
}
</script>

<template>
  <div class="today">
    <h1 class="visually-hidden">{{ t('today.title') }}</h1>
    <StatePanel :error="error" :loading="loading && !data" :empty="data?.trees === 0" @retry="load">
      <template #empty>
        <EmptyPlace :title="t('today.noTrees')" :words="t('today.noTreesWords')">
          <RouterLink v-if="data?.sites.length" class="button main" :to="{ name: 'tree-new' }">{{
            t('today.addTree')
          }}</RouterLink>
          <RouterLink v-else class="button main" :to="{ name: 'site-new' }">{{ t('today.addSite') }}</RouterLink>
        </EmptyPlace>
      </template>
      <template v-if="data">
        <LoadBar v-if="all > 0" :groups="groups" :done="done" :all="all" :current-key="currentKey" />
        <div class="halves">
          <div class="left">
            <p class="day narrow">{{ weekday(data.day) }}, {{ fullDay(data.day) }}</p>
            <section v-if="inYard" class="yard">
              <h2>{{ t('today.load') }}</h2>
              <BigFigure dimension="volume" :value="all - done" :size="wide ? 112 : 88" />
              <p class="for">{{ t('today.loadFor', { trees: open.length, stops: groups.length }) }}</p>
              <ul v-if="cautions.length" class="cautions">
                <li v-for="c in cautions" :key="c">{{ c }}</li>
              </ul>
              <ActButton class="main start" @act="start">{{ t('today.start') }}</ActButton>
            </section>
            <CurrentTree
              v-else-if="current"
              :row="current"
              :after="after"
              :wide="wide"
              :busy="busy"
              @done="logPlanned"
              @other="other = true"
            />
            <section v-else class="yard">
              <h2>{{ done > 0 ? t('today.allDone') : t('today.nothing') }}</h2>
              <BigFigure v-if="done > 0" dimension="volume" :value="done" :size="wide ? 112 : 88" />
              <p class="for">
                {{
                  done > 0
                    ? t('today.allDoneWords', { amount: text('volume', done, 0), n: wateredTrees }, wateredTrees)
                    : t('today.nothingWords')
                }}
              </p>
            </section>
            <p class="said" role="status">{{ said }}</p>
            <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
            <ul v-if="!inYard && cautions.length" class="cautions after">
              <li v-for="c in cautions" :key="c">{{ c }}</li>
            </ul>
            <p v-for="s in problems" :key="s.id" class="warn">
              {{ s.name }}: {{ s.problem }}
              <RouterLink :to="{ name: 'weather' }">{{ t('sheet.mendWeather') }}</RouterLink>
            </p>
            <p v-if="filled" class="warn">{{ t('today.filled') }}</p>
          </div>
          <section class="right" :aria-label="t('today.stops')">
            <RoundList
              :groups="groups"
              :current-id="inYard ? null : (current?.tree.id ?? null)"
              :busy="busy"
              @pick="pick"
              @undo="undoEntry"
            />
            <p v-if="ready" class="quiet foot">{{ t('today.ready', { n: ready }, ready) }}</p>
            <p v-if="guessed" class="quiet foot">{{ t('today.guessed', { n: guessed }, guessed) }}</p>
          </section>
        </div>
        <AmountDialog
          v-if="current"
          v-model:open="other"
          :title="`${current.tree.tag} ${current.tree.place}`"
          :planned="pourOf(current.tree.next!).litres"
          @log="(l) => logWater(current!, l, null)"
        />
      </template>
    </StatePanel>
  </div>
</template>

<style scoped>
.today {
  padding: 20px 24px 40px;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 600px) minmax(0, 1fr);
  gap: 48px;
  margin-top: 20px;
  max-width: 1240px;
}
.day {
  font-size: 18px;
  color: var(--ink-2);
  margin-bottom: 8px;
}
.yard {
  display: grid;
  gap: 12px;
  justify-items: start;
}
.yard h2 {
  font-size: 28px;
}
.yard .for {
  font-size: 20px;
}
.start {
  min-height: 64px;
  min-width: 300px;
  font-size: 22px;
  margin-top: 12px;
}
.cautions {
  display: grid;
  gap: 6px;
  border-left: 4px solid var(--ink);
  padding-left: 12px;
  max-width: 56ch;
}
.cautions.after {
  margin-top: 20px;
}
.said {
  min-height: 24px;
  margin-top: 8px;
  color: var(--ink-2);
}
.foot {
  margin-top: 14px;
}
@media (max-width: 1100px) {
  .halves {
    gap: 28px;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
}
@media (max-width: 767px) {
  .today {
    padding: 12px 16px 24px;
  }
  .halves {
    grid-template-columns: minmax(0, 1fr);
    margin-top: 6px;
    gap: 20px;
  }
  .day {
    display: none;
  }
  .start {
    width: 100%;
  }
}
</style>
