<script setup lang="ts">
/** What days of the book add up to: water, hours, visits, and how many trees survive. */
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import BookFilters from '@/components/book/BookFilters.vue'
import SurvivalTable from '@/components/book/SurvivalTable.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useBookQuery } from '@/composables/useBookQuery'
import { useHow } from '@/composables/useHow'
import { useResource } from '@/composables/useResource'
import { fullDay, monthYear } from '@/logic/dates'
import { text } from '@/units'
import { figure } from '@/logic/numbers'
import { sizeName, treeName } from '@/i18n'

const { t, te } = useI18n()
const { time } = useHow()
const { query, asked, change } = useBookQuery()
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/book/numbers', { params: { query: { ...asked.value, kind: undefined } }, signal })),
  [() => JSON.stringify(asked.value)],
)
const same = (group: string) => group
/** How each group is called: kinds and sizes of the program's own in the reader's language. */
const NAMED = {
  kind: treeName,
  stock: (group: string) => (te(`kind.${group}`) ? t(`kind.${group}`) : sizeName(group)),
  planter: same,
  year: same,
}
const BY = ['kind', 'stock', 'planter', 'year'] as const
const hours = (h: number) => (h ? time(60 * h) : '–')
</script>

<template>
  <PageFrame :title="t('bookPage.page.numbers')" :error="error" :loading="loading && !data" @retry="load">
    <template #above><BookFilters :query="query" brief @change="change" /></template>
    <template v-if="data">
      <section class="first">
        <BigFigure dimension="volume" :value="data.litres" :size="64" :digits="0" />
        <p>
          {{ t('bookPage.inVisits', { n: figure(data.waterings), trees: data.trees }, data.waterings) }},
          {{ fullDay(data.first) }} – {{ fullDay(data.last) }}.
        </p>
        <p>
          {{ t('bookPage.hours', { time: hours(data.hours), n: data.days }, data.days) }}.
          <template v-if="data.cost !== null">{{ t('bookPage.cost', { cost: figure(data.cost) }) }}.</template>
        </p>
      </section>
      <div class="two">
        <section>
          <h2>{{ t('bookPage.byMonth') }}</h2>
          <table class="ruled">
            <thead>
              <tr>
                <th scope="col">{{ t('bookPage.month') }}</th>
                <th scope="col" class="num">{{ t('bookPage.water') }}</th>
                <th scope="col" class="num">{{ t('bookPage.waterings') }}</th>
                <th scope="col" class="num">{{ t('bookPage.timeAt') }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="m in data.by_month" :key="m.month">
                <th scope="row">{{ monthYear(`${m.month}-01`) }}</th>
                <td class="num">{{ text('volume', m.litres, 0) }}</td>
                <td class="num">{{ m.waterings }}</td>
                <td class="num">{{ hours(m.hours) }}</td>
              </tr>
            </tbody>
          </table>
        </section>
        <section>
          <h2>{{ t('bookPage.counted') }}</h2>
          <table class="ruled">
            <tbody>
              <template v-for="(n, kind) in data.counts" :key="kind">
                <tr v-if="n">
                  <th scope="row">{{ t(`bookPage.kind.${kind}`) }}</th>
                  <td class="num">{{ figure(n) }}</td>
                </tr>
              </template>
            </tbody>
          </table>
        </section>
      </div>
      <section>
        <h2>{{ t('bookPage.survival') }}</h2>
        <p class="quiet">{{ t('bookPage.survivalWords') }}</p>
        <div class="two">
          <SurvivalTable
            v-for="by in BY"
            :key="by"
            :title="t(`bookPage.by.${by}`)"
            :rows="data.survival[by]"
            :name="NAMED[by]"
          />
        </div>
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
.first {
  margin: var(--space-5) 0;
}
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  margin-top: var(--space-5);
}
.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 var(--space-7);
  align-items: start;
}
table {
  width: 100%;
}
th[scope='row'] {
  text-align: left;
  font-weight: 500;
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
