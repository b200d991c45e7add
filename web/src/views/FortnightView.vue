<script setup lang="ts">
/** Every tree by day for a fortnight: what was chosen under hours, orders and water, and what a move would do. */
import { useMediaQuery } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import FormField from '@/components/common/FormField.vue'
import HeadFigure from '@/components/common/HeadFigure.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import CrewFoot from '@/components/fortnight/CrewFoot.vue'
import WeeksFoot from '@/components/fortnight/WeeksFoot.vue'
import StopRows from '@/components/fortnight/StopRows.vue'
import VisitPanel from '@/components/fortnight/VisitPanel.vue'
import { useFortnight, type TreeAhead } from '@/composables/useFortnight'
import { useWeeks } from '@/composables/useWeeks'
import { useResource } from '@/composables/useResource'
import { listed, longDay, moment, weekdayShort } from '@/logic/dates'
import { isUs, text, unitLabel } from '@/units'
import { fixed } from '@/logic/numbers'

const { t } = useI18n()
const { short } = useWeeks()
const route = useRoute()
const router = useRouter()
const site = computed(() => (route.query.site ? String(route.query.site) : ''))
const plan = useFortnight(() => site.value)
const { data, error, loading, load, trees, placeOf, lifted, busy, said, failed, waiting } = plan
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const wide = useMediaQuery('(min-width: 1024px)')
const tablet = useMediaQuery('(min-width: 768px)')
const WEEK = 7
const names = computed(() => (wide.value ? 232 : tablet.value ? 152 : 92))
const shown = computed(() => (tablet.value ? 2 * WEEK : WEEK))
const week = ref(0)
const first = computed(() => (tablet.value ? 0 : week.value * WEEK))
const visible = computed(() =>
  (data.value?.days ?? []).map((day, i) => ({ day, i })).slice(first.value, first.value + shown.value),
)

const chosen = ref<{ id: string; day: number } | null>(null)
const inHand = computed(() => (chosen.value ? (placeOf(chosen.value.id)?.tree ?? null) : null))
async function choose(tree: TreeAhead, day: number) {
  if (lifted.value && lifted.value.tree.id !== tree.id) plan.back()
  chosen.value = { id: tree.id, day }
  if (!tablet.value) week.value = day < WEEK ? 0 : 1
  await nextTick()
  const cell = document.querySelector<HTMLElement>(`[data-cell="${tree.id}/${day}"]`)
  cell?.focus({ preventScroll: true })
  cell?.scrollIntoView({ block: tablet.value ? 'nearest' : 'center' })
}
function leave(tree: TreeAhead, day: number, down: boolean) {
  const at = trees.value.findIndex((one) => one.tree.id === tree.id)
  const next = trees.value[at + (down ? 1 : -1)]
  if (next) void choose(next.tree, day)
}
function lift(tree: TreeAhead, day: number) {
  chosen.value = { id: tree.id, day }
  plan.lift(tree, day)
}
async function move(day: number) {
  plan.moveTo(Math.min(2 * WEEK - 1, Math.max(0, day)))
  if (lifted.value && !tablet.value) week.value = lifted.value.to < WEEK ? 0 : 1
}
function liftTo(to: number) {
  lift(inHand.value!, chosen.value!.day)
  void move(to)
}
async function keep() {
  const now = lifted.value
  if (!now) return
  const words = t('fortnight.kept', { tag: now.tree.tag, day: longDay(data.value!.days[now.to]!) })
  await plan.keep(words)
  if (!lifted.value) void choose(now.tree, now.to)
}
function wish(what: 'pin' | 'forbid' | 'free') {
  const day = longDay(data.value!.days[chosen.value!.day]!)
  void plan.wish(inHand.value!, chosen.value!.day, what, t(`fortnight.said.${what}`, { tag: inHand.value!.tag, day }))
}

/** The crews' day: what is poured, and the hours of it. */
const today = computed(() => {
  const first = data.value?.today
  const hours = (minutes: number) => fixed(minutes / 60, 1)
  return {
    litres: (isUs.value ? first?.litres_us : first?.litres) ?? 0,
    hours: hours(first?.minutes ?? 0),
    of: first && first.has_min !== null ? hours(first.has_min) : null,
  }
})
const all = computed(() => trees.value.map((one) => one.tree))
const waits = computed(() => all.value.filter((tree) => tree.waits))
const dying = computed(() => all.value.filter((tree) => tree.word === 'may_die'))
const SHOWN_NAMES = 6
const price = computed(() => {
  const parts = []
  if (waits.value.length) parts.push(t('fortnight.price.wait', { n: waits.value.length }, waits.value.length))
  const of = (word: string) => all.value.filter((tree) => tree.word === word).length
  if (of('slower_growth')) parts.push(t('fortnight.price.slower', { n: of('slower_growth') }, of('slower_growth')))
  if (of('leaves_suffer')) parts.push(t('fortnight.price.suffer', { n: of('leaves_suffer') }, of('leaves_suffer')))
  if (!parts.length && !dying.value.length) return t('fortnight.price.none')
  if (!dying.value.length) parts.push(t('fortnight.price.noneDies'))
  return parts.join(' ')
})
const dies = computed(() => {
  if (!dying.value.length) return ''
  const tags = dying.value.slice(0, SHOWN_NAMES).map((tree) => tree.tag)
  const more = dying.value.length - tags.length
  return t(
    'fortnight.price.dies',
    { tags: more ? `${tags.join(', ')} …` : listed(tags), n: dying.value.length },
    dying.value.length,
  )
})
const sure = computed(() => {
  const of = data.value
  if (!of?.made_at || !of.sure) return ''
  return t(`fortnight.sure.${of.sure}`, { share: fixed(100 * (of.gap ?? 0), 1) })
})
function pickSite(event: Event) {
  const value = (event.target as HTMLSelectElement).value
  void router.replace({ query: value ? { site: value } : {} })
}
</script>

<template>
  <PageFrame
    class="fortnight"
    :title="t('fortnight.title')"
    :error="error"
    :loading="loading && !data"
    :empty="data?.sites.length === 0"
    @retry="load"
  >
    <template #title>
      <h1 class="visually-hidden">{{ t('fortnight.title') }}</h1>
      <div v-if="data" class="left">
        <HeadFigure :value="today.litres" :size="tablet ? 56 : 40">{{
          today.of
            ? t('fortnight.today', { n: today.hours, of: today.of })
            : t('fortnight.todayFree', { n: today.hours })
        }}</HeadFigure>
        <div class="price-of">
          <p v-for="what in short(data.weeks[0])" :key="what" class="price short">{{ what }}</p>
          <p class="price">{{ price }}</p>
          <p v-if="dies" class="warn">{{ dies }}</p>
          <p v-if="data.pins_missed" class="warn">
            {{ t('fortnight.pinsMissed', { n: data.pins_missed }, data.pins_missed) }}
          </p>
        </div>
      </div>
    </template>
    <template #beside>
      <div class="right">
        <FormField id="fortnight-site" class="no-print which" :label="t('care.site')">
          <select id="fortnight-site" :value="site" @change="pickSite">
            <option value="">{{ t('care.all') }}</option>
            <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select>
        </FormField>
        <div v-if="data" class="made narrow">
          <p v-if="data.made_at">
            {{ t(data.stale ? 'fortnight.stale' : 'fortnight.made', { when: moment(data.made_at) }) }}
          </p>
          <p v-else>{{ t(data.stale ? 'fortnight.notYet' : 'fortnight.free') }}</p>
          <p v-if="sure">{{ sure }}</p>
          <p v-if="data.holds">{{ t('fortnight.sure.holds', { n: data.holds[0], of: data.holds[1] }) }}</p>
          <p v-for="order in data.orders" :key="order.id">
            <span>{{
              order.begins
                ? t('fortnight.orderFrom', { name: order.name, day: longDay(order.begins) })
                : t('fortnight.order', { name: order.name })
            }}</span>
          </p>
          <button
            v-if="data.made_at || data.stale"
            type="button"
            class="button plain"
            :disabled="waiting || busy"
            @click="plan.again(t('fortnight.againSaid'))"
          >
            {{ t(waiting ? 'fortnight.choosing' : 'fortnight.again') }}
          </button>
        </div>
      </div>
    </template>
    <template #empty>
      <EmptyPlace :title="t('fortnight.title')" :words="t('fortnight.none')">
        <RouterLink class="button" :to="{ name: 'tree-new' }">{{ t('trees.add') }}</RouterLink>
      </EmptyPlace>
    </template>
    <template v-if="data">
      <p role="status" class="said">{{ said }}</p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <div v-if="!tablet" class="weeks">
        <button type="button" class="button" :aria-pressed="week === 0" @click="week = 0">
          {{ t('fortnight.week.this') }}
        </button>
        <button type="button" class="button" :aria-pressed="week === 1" @click="week = 1">
          {{ t('fortnight.week.next') }}
        </button>
      </div>
      <div
        role="grid"
        class="grid"
        :aria-label="t('fortnight.grid')"
        :style="{ '--names': `${names}px`, '--days': shown }"
      >
        <div role="rowgroup" class="top">
          <div role="row" class="days">
            <span role="columnheader" class="unit narrow">{{
              t('fortnight.unit', { unit: unitLabel('volume') })
            }}</span>
            <span
              v-for="{ day, i } in visible"
              :key="day"
              role="columnheader"
              class="day"
              :class="{ today: i === 0, outlook: i >= data.outlook_from }"
            >
              <span class="of-week">{{ i === 0 ? t('fortnight.todayWord') : weekdayShort(day) }}</span>
              <b>{{ Number(day.slice(8)) }}</b>
            </span>
          </div>
        </div>
        <template v-for="s in data.sites" :key="s.id">
          <div role="rowgroup" class="site">
            <div role="row" class="siteline">
              <h2 role="rowheader">{{ s.name }}</h2>
              <span v-if="s.crew !== s.name" role="gridcell" class="narrow">{{
                t('fortnight.by', { crew: s.crew })
              }}</span>
              <span v-if="s.rain_mm.some((mm) => mm > 0.5)" role="gridcell" class="narrow">{{
                t('fortnight.rain', {
                  days: listed(
                    s.rain_mm
                      .map((mm, i) => (mm > 0.5 ? `${weekdayShort(data!.days[i]!)} ${text('rain', mm)}` : ''))
                      .filter(Boolean),
                  ),
                })
              }}</span>
            </div>
          </div>
          <p v-if="s.problem" class="warn">{{ s.problem }}</p>
          <template v-for="stop in s.stops" :key="stop.id ?? s.id">
            <div role="rowgroup">
              <div role="row">
                <h3 role="rowheader">{{ stop.name ?? t('today.noStop') }}</h3>
              </div>
            </div>
            <StopRows
              :trees="stop.trees"
              :days="data.days"
              :first="first"
              :shown="shown"
              :names="names"
              :outlook="data.outlook_from"
              :closed="s.closed"
              :lifted="lifted"
              :chosen="chosen"
              @choose="choose"
              @lift="lift"
              @move="move"
              @keep="keep"
              @back="plan.back"
              @leave="leave"
            />
          </template>
        </template>
        <div class="crews">
          <CrewFoot
            v-for="crew in data.crews"
            :key="crew.id"
            :crew="crew"
            :first="first"
            :shown="shown"
            :names="names"
          />
          <WeeksFoot :weeks="data.weeks" :first="first" :shown="shown" :names="names" />
        </div>
      </div>
      <VisitPanel
        v-if="inHand && chosen"
        :tree="inHand"
        :day="chosen.day"
        :days="data.days"
        :lifted="lifted"
        :busy="busy"
        @lift="liftTo"
        @move="move"
        @keep="keep"
        @back="plan.back"
        @wish="wish"
        @close="chosen = null"
      />
      <p class="quiet keys">{{ t('fortnight.legend') }}</p>
    </template>
  </PageFrame>
</template>

<style scoped>
.which {
  margin-left: auto;
  width: min(100%, 300px);
  margin-bottom: var(--space-2);
}
.page > :deep(header) {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 37%);
  align-items: start;
  margin-bottom: var(--space-2);
}
.price {
  font-size: var(--text-3);
  max-width: 60ch;
}
.short {
  font-size: var(--text-2);
  font-weight: 600;
}
.made {
  text-align: right;
  max-width: 44ch;
  margin-left: auto;
  color: var(--ink-2);
}
.weeks {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--space-3);
  margin: var(--space-3) 0;
}
.weeks .button {
  min-height: 56px;
}
.weeks [aria-pressed='true'] {
  border-width: 3px;
  border-color: var(--ink);
  font-weight: 600;
}
.days {
  display: grid;
  grid-template-columns: var(--names) repeat(var(--days), minmax(0, 1fr));
  align-items: end;
  border-bottom: 2px solid var(--ink);
}
.top {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--ground);
  padding-top: var(--space-2);
}
.day {
  text-align: center;
  font-family: var(--condensed);
  line-height: 1.1;
  padding-bottom: var(--space-1);
}
.day b {
  font-weight: inherit;
}
.of-week {
  margin-right: 0.3em;
}
.day.today {
  font-weight: 600;
}
.day.outlook {
  color: var(--ink-2);
}
.unit {
  color: var(--ink-2);
}
.siteline {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 var(--space-4);
  padding-top: var(--space-4);
}
h2 {
  font-size: var(--text-3);
}
h3 {
  font-size: var(--text-1);
  padding: var(--space-2) 0 var(--space-1);
  border-bottom: 1px solid var(--hair);
}
.crews {
  margin-top: var(--space-4);
  border-top: 2px solid var(--ink);
  padding-top: var(--space-2);
  display: grid;
  gap: var(--space-3);
}
.keys {
  margin-top: var(--space-4);
  max-width: 90ch;
}
@media (max-width: 1199px) {
  .of-week {
    display: block;
    margin: 0;
  }
}
@media (max-width: 767px) {
  .page > :deep(header) {
    grid-template-columns: minmax(0, 1fr);
  }
  .which {
    width: 100%;
  }
  .made {
    text-align: left;
    margin: 0;
  }
}
</style>
