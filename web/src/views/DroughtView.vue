<script setup lang="ts">
/** Drought: orders in force, what is wanted, allowed and chosen, who goes without. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, take, type Schema } from '@/api/client'
import HeadFigure from '@/components/common/HeadFigure.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import ModesProposal from '@/components/fortnight/ModesProposal.vue'
import PlansBeside from '@/components/fortnight/PlansBeside.vue'
import SlackChoice from '@/components/fortnight/SlackChoice.vue'
import { useActing } from '@/composables/useActing'
import { useDevice } from '@/composables/useDevice'
import { dayCount } from '@/composables/useDay'
import { useOrderWords } from '@/composables/useOrderWords'
import { useResource } from '@/composables/useResource'
import { plannedL, shortL, useWeeks } from '@/composables/useWeeks'
import { longDay } from '@/logic/dates'
import { text } from '@/units'
import { fixed } from '@/logic/numbers'

const { t } = useI18n()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/drought', { signal })), [dayCount])
const { busy, said, failed, act } = useActing(load)
const { person, ensurePerson } = useDevice()
const { rules, span } = useOrderWords()
const { litres, hours, short } = useWeeks()
/** The worst come first: so many are shown at once, on paper all. */
const FIRST = 12
const whole = ref(false)
async function letGo(tree: Schema['WithoutOut']) {
  if (!(await ensurePerson())) return
  const id = newId()
  const body = { tree_id: tree.id, by_name: person.value!.name }
  void act(
    () => persist(() => api.PUT('/api/let-go/{let_id}', { params: { path: { let_id: id } }, body })),
    t('drought.letGoSaid', { tag: tree.tag }),
    { typed: false },
  )
}
function keepAfterAll(tree: Schema['LetGoneOut']) {
  void act(
    () => take(api.POST('/api/let-go/{let_id}/withdraw', { params: { path: { let_id: tree.id } } })),
    t('drought.keptSaid', { tag: tree.tag }),
    { typed: false },
  )
}
function lift(order: Schema['RestrictionOut'], withdrawn: boolean) {
  void act(
    () =>
      take(
        api.PUT('/api/restrictions/{order_id}/withdrawn', {
          params: { path: { order_id: order.id } },
          body: { withdrawn },
        }),
      ),
    t('drought.lifted', { name: order.name }),
    { typed: false },
  )
}
</script>

<template>
  <PageFrame :title="t('drought.title')" :error="error" :loading="loading && !data" @retry="load">
    <template #title>
      <h1 class="visually-hidden">{{ t('drought.title') }}</h1>
      <HeadFigure v-if="data" :value="shortL(data.weeks[0])">{{ t('drought.short') }}</HeadFigure>
    </template>
    <template v-if="data">
      <p role="status" class="said">{{ said }}</p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <p v-for="what in short(data.weeks[0])" :key="what" class="what">{{ what }}</p>
      <table v-if="data.weeks.length" class="ruled weeks">
        <thead>
          <tr>
            <th scope="col">{{ t('drought.week') }}</th>
            <th scope="col" class="num">{{ t('drought.wanted') }}</th>
            <th scope="col" class="num">{{ t('drought.allowed') }}</th>
            <th scope="col" class="num">{{ t('drought.chosen') }}</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="w in data.weeks" :key="w.first_day">
            <tr>
              <th scope="row" rowspan="2">{{ t('drought.from', { day: longDay(w.first_day) }) }}</th>
              <td class="num">{{ litres(w.wanted_l) }}</td>
              <td class="num">{{ litres(w.allowed_l) }}</td>
              <td class="num strong">{{ litres(plannedL(w)) }}</td>
            </tr>
            <tr>
              <td class="num">{{ hours(w.wanted_min) }}</td>
              <td class="num">{{ hours(w.allowed_min) }}</td>
              <td class="num strong">{{ hours(w.chosen_min) }}</td>
            </tr>
          </template>
        </tbody>
      </table>
      <p v-else class="quiet">{{ t('drought.noPlan') }}</p>

      <section>
        <h2 class="ruled-head large">{{ t('drought.orders') }}</h2>
        <p class="quiet">{{ t('drought.decides') }}</p>
        <ul>
          <li v-for="o in data.orders" :key="o.id">
            <div class="line">
              <h3>{{ o.name }}</h3>
              <span class="narrow">{{ t('drought.stage', { n: o.stage }) }}, {{ span(o) }}</span>
              <span class="acts no-print">
                <RouterLink class="button plain" :to="{ name: 'restriction-edit', params: { id: o.id } }">{{
                  t('common.edit')
                }}</RouterLink>
                <button v-lead type="button" class="button plain" :disabled="busy" @click="lift(o, true)">
                  {{ t('drought.lift') }}
                </button>
              </span>
            </div>
            <ul class="rules">
              <li v-for="r in rules(o)" :key="r">{{ r }}</li>
            </ul>
            <details v-if="o.words">
              <summary class="opens">{{ t('drought.words') }}</summary>
              <p class="words">{{ o.words }}</p>
              <a v-if="o.link" :href="o.link" rel="noopener noreferrer">{{ o.link }}</a>
            </details>
          </li>
        </ul>
        <p v-if="!data.orders.length">{{ t('drought.noOrders') }}</p>
        <span class="links no-print">
          <RouterLink class="button" :to="{ name: 'restriction-new' }">{{ t('drought.add') }}</RouterLink>
          <RouterLink class="button" :to="{ name: 'savings' }">{{ t('drought.saving') }}</RouterLink>
          <RouterLink class="button" :to="{ name: 'book-sheet' }">{{ t('sheet.title') }}</RouterLink>
        </span>
      </section>

      <SlackChoice @changed="load" />
      <PlansBeside :beside="data.beside" />
      <ModesProposal v-lead :wanted-l="data.weeks[0]?.allowed_l ?? data.weeks[0]?.chosen_l ?? null" @changed="load" />
      <section v-if="data.seasons.length">
        <h2 class="ruled-head large">{{ t('drought.season') }}</h2>
        <template v-for="s in data.seasons" :key="s.station">
          <p v-for="d in s.spans" :key="d.days">
            {{
              t(
                'drought.spanSays',
                {
                  station: s.station,
                  rain: text('rain', d.rain_mm),
                  n: d.days,
                  usual: text('rain', d.usual_mm),
                  drier: d.drier,
                  years: d.years,
                },
                d.years,
              )
            }},
            {{ d.spi === null ? t('drought.spiFew') : t('drought.spi', { value: fixed(d.spi, 1) }) }}
          </p>
        </template>
      </section>
      <section aria-labelledby="without">
        <h2 id="without" class="ruled-head large">
          {{ t('drought.without', { n: data.without.length }, data.without.length) }}
        </h2>
        <p v-if="!data.without.length">{{ t('drought.noneWithout') }}</p>
        <ol>
          <li v-for="(tree, n) in data.without" :key="tree.id" class="tree" :class="{ folded: n >= FIRST && !whole }">
            <RouterLink :to="{ name: 'tree-water', params: { id: tree.id } }"
              ><strong>{{ tree.tag }}</strong></RouterLink
            >
            <span
              >{{ tree.place }}, <span class="quiet">{{ tree.site }}</span></span
            >
            <span :class="{ warn: tree.word === 'may_die' }">{{ t(`harm.${tree.word}`) }}</span>
            <span class="narrow">{{
              tree.next
                ? t('drought.next', { day: longDay(tree.next), n: tree.visits }, tree.visits)
                : t('drought.never')
            }}</span>
            <button
              v-if="tree.word === 'may_die'"
              v-lead
              type="button"
              class="button plain no-print"
              :disabled="busy"
              @click="letGo(tree)"
            >
              {{ t('drought.letGo') }}
            </button>
          </li>
        </ol>
        <button
          v-if="data.without.length > FIRST && !whole"
          type="button"
          class="button plain no-print"
          @click="whole = true"
        >
          {{ t('drought.more', { n: data.without.length - FIRST }) }}
        </button>
        <template v-if="data.let_go.length">
          <h3>{{ t('drought.letGone') }}</h3>
          <ul>
            <li v-for="tree in data.let_go" :key="tree.id" class="tree">
              <strong>{{ tree.tag }}</strong>
              <span>{{ t('drought.letBy', { by: tree.by_name, day: longDay(tree.day) }) }}</span>
              <button v-lead type="button" class="button plain no-print" :disabled="busy" @click="keepAfterAll(tree)">
                {{ t('drought.keep') }}
              </button>
            </li>
          </ul>
        </template>
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
.weeks {
  width: min(100%, 760px);
}
.weeks tbody th {
  vertical-align: top;
  padding-top: var(--space-2);
  border-bottom: 1px solid var(--hair);
}
.strong,
.what {
  font-weight: 600;
}
.what {
  font-size: var(--text-3);
  max-width: 60ch;
}
section {
  margin-top: var(--space-7);
}
h3 {
  font-size: var(--text-3);
}
.quiet {
  padding: var(--space-2) 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 var(--space-4);
  padding-top: var(--space-3);
}
.acts {
  margin-left: auto;
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
}
.rules {
  padding: var(--space-1) 0 var(--space-2) var(--space-4);
}
.rules li::before {
  content: '– ';
}
.words {
  max-width: 70ch;
  white-space: pre-line;
}
@media screen {
  .tree.folded {
    display: none;
  }
}
.tree {
  display: grid;
  grid-template-columns: 72px minmax(0, 1fr) 140px 220px 150px;
  gap: 0 var(--space-4);
  align-items: baseline;
  min-height: var(--tap);
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 1023px) {
  .tree {
    grid-template-columns: 72px minmax(0, 1fr);
  }
  .tree > :nth-child(n + 3) {
    grid-column: 2;
    justify-self: start;
  }
}
</style>
