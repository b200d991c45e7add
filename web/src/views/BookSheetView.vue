<script setup lang="ts">
/** The sheet for a client or an authority: ordered, done, what it took, lost; over any dates, on one page, as CSV. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { api, take, type Schema } from '@/api/client'
import AgainstOrder from '@/components/common/AgainstOrder.vue'
import FormField from '@/components/common/FormField.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useHow } from '@/composables/useHow'
import { useOrderWords } from '@/composables/useOrderWords'
import { useResource } from '@/composables/useResource'
import { fullDay, longDay, monthDay } from '@/logic/dates'
import { show, text } from '@/units'
import { figure, fixed } from '@/logic/numbers'
import { treeName } from '@/i18n'

/** What would not fit on a page is in the file. */
const SHOWN = 12
const { t } = useI18n()
const { time } = useHow()
const { rules, span } = useOrderWords()
const route = useRoute()
const router = useRouter()
const of = (name: string) => (typeof route.query[name] === 'string' ? (route.query[name] as string) : '')
const query = computed(() => ({
  site_id: of('site') || undefined,
  first: of('from') || undefined,
  last: of('to') || undefined,
}))
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/book/sheet', { params: { query: query.value }, signal })),
  [query],
)
function set(name: string, event: Event) {
  const value = (event.target as HTMLInputElement | HTMLSelectElement).value
  void router.replace({ query: { ...route.query, [name]: value || undefined } })
}
const file = computed(() => {
  const asked = Object.entries(query.value).filter(([, value]) => value)
  return `/api/book/sheet.csv?${new URLSearchParams(asked as string[][])}`
})
const allowed = (w: Schema['SheetWeek']) =>
  w.allowed_l === null
    ? t('sheet.noLimit')
    : t('sheet.of', { n: show('volume', w.counted_l ?? 0, 0).value, most: text('volume', w.allowed_l, 0) })
const print = () => window.print()
</script>

<template>
  <PageFrame :title="t('sheet.title')" :error="error" :loading="loading && !data" @retry="load">
    <template #title>
      <h1>
        {{
          data
            ? t('sheet.head', {
                site: data.site_name ?? t('sheet.all'),
                first: fullDay(data.first),
                last: fullDay(data.last),
              })
            : t('sheet.title')
        }}
      </h1>
    </template>
    <template #beside>
      <span class="acts no-print">
        <a class="button" :href="file" download>{{ t('sheet.csv') }}</a>
        <button type="button" class="button main" :disabled="!data" @click="print">{{ t('bookPage.print') }}</button>
      </span>
    </template>
    <template #above>
      <div class="asked no-print">
        <FormField id="sheet-site" :label="t('bookPage.site')">
          <select id="sheet-site" class="plain-input" :value="of('site')" @change="(e) => set('site', e)">
            <option value="">{{ t('bookPage.allSites') }}</option>
            <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select>
        </FormField>
        <FormField id="sheet-from" :label="t('sheet.from')">
          <input
            id="sheet-from"
            type="date"
            class="plain-input"
            :value="data?.first"
            :max="data?.last"
            @change="(e) => set('from', e)"
          />
        </FormField>
        <FormField id="sheet-to" :label="t('sheet.to')">
          <input
            id="sheet-to"
            type="date"
            class="plain-input"
            :value="data?.last"
            :min="data?.first"
            @change="(e) => set('to', e)"
          />
        </FormField>
      </div>
    </template>
    <template v-if="data">
      <p class="says">
        {{
          t(
            'sheet.says',
            { water: text('volume', data.litres, 0), n: figure(data.waterings), trees: data.watered },
            data.waterings,
          )
        }}
      </p>
      <p>{{ t('sheet.saysHours', { time: time(60 * data.hours), n: data.trees }, data.trees) }}</p>
      <div class="two">
        <section>
          <h2>{{ t('sheet.done') }}</h2>
          <table class="ruled">
            <thead>
              <tr>
                <th scope="col">{{ t('sheet.week') }}</th>
                <th scope="col" class="num">{{ t('sheet.water') }}</th>
                <th scope="col" class="num">{{ t('sheet.allowed') }}</th>
                <th scope="col" class="num">{{ t('sheet.hours') }}</th>
                <th scope="col" class="num wide">{{ t('sheet.waterings') }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="w in data.weeks" :key="w.first">
                <td>{{ monthDay(w.first) }} – {{ monthDay(w.last) }}</td>
                <td class="num">{{ text('volume', w.litres, 0) }}</td>
                <td class="num">{{ allowed(w) }}</td>
                <td class="num">{{ t('sheet.hoursOf', { n: fixed(w.hours, 1) }) }}</td>
                <td class="num wide">{{ w.waterings }}</td>
              </tr>
            </tbody>
          </table>
        </section>
        <section>
          <h2>{{ t('sheet.ordered') }}</h2>
          <p v-if="!data.orders.length">{{ t('sheet.noOrder') }}</p>
          <div v-for="o in data.orders" :key="o.id" class="order">
            <h3>{{ o.name }}</h3>
            <p class="quiet">{{ t('drought.stage', { n: o.stage }) }}, {{ span(o) }}</p>
            <ul>
              <li v-for="r in rules(o)" :key="r">{{ r }}</li>
            </ul>
          </div>
        </section>
        <section>
          <h2>{{ t('sheet.against') }}</h2>
          <p v-if="!data.broken.length">{{ t('sheet.noneAgainst') }}</p>
          <ul>
            <li v-for="(b, n) in data.broken.slice(0, SHOWN)" :key="n" class="row">
              <strong>{{ b.tag }}</strong> {{ longDay(b.day) }}, {{ text('volume', b.litres) }}
              <AgainstOrder :against="b.against" />
            </li>
          </ul>
          <p v-if="data.broken.length > SHOWN">{{ t('sheet.more', { n: data.broken.length - SHOWN }) }}</p>
        </section>
        <section>
          <h2>{{ t('sheet.lost') }}</h2>
          <p v-if="!data.lost.length">{{ t('sheet.noneLost') }}</p>
          <ul>
            <li v-for="(l, n) in data.lost.slice(0, SHOWN)" :key="n" class="row">
              <strong>{{ l.tag }}</strong> {{ treeName(l.common) }}, {{ l.place }}: {{ t(`sheet.end.${l.end}`) }}
              {{ longDay(l.day) }}<template v-if="l.cause">, {{ l.cause }}</template>
            </li>
          </ul>
          <p v-if="data.lost.length > SHOWN">{{ t('sheet.more', { n: data.lost.length - SHOWN }) }}</p>
        </section>
      </div>
    </template>
  </PageFrame>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  margin-left: auto;
}
.asked {
  display: grid;
  grid-template-columns: minmax(0, 320px) 180px 180px;
  gap: var(--space-3) var(--space-5);
  margin-bottom: var(--space-5);
}
.says {
  font-size: var(--text-5);
  font-weight: 600;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: var(--space-5) var(--space-8);
  margin-top: var(--space-5);
}
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  margin-bottom: var(--space-2);
}
h3 {
  font-size: var(--text-2);
}
table {
  width: 100%;
}
.order {
  padding-bottom: var(--space-3);
}
.order li::before {
  content: '– ';
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 var(--space-3);
  padding: var(--space-1) 0;
}
@media (max-width: 1023px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 767px) {
  .asked {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
  .asked > :first-child {
    grid-column: 1 / -1;
  }
  .wide {
    display: none;
  }
}
@media print {
  .two {
    grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
    font-size: 10pt;
  }
  .row :deep(summary) {
    min-height: 0;
  }
}
</style>
