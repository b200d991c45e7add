<script setup lang="ts">
/** What would save most: one thing changed at trees, ranked by what it saves for what it takes. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, take, type Schema } from '@/api/client'
import HeadFigure from '@/components/common/HeadFigure.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import PartPrices from '@/components/saving/PartPrices.vue'
import SavingOffer from '@/components/saving/SavingOffer.vue'
import { useActing } from '@/composables/useActing'
import { dayCount } from '@/composables/useDay'
import { useResource } from '@/composables/useResource'
import { useSavingWords } from '@/composables/useSavingWords'
import { longDay } from '@/logic/dates'
import { text } from '@/units'

const { t } = useI18n()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/savings', { signal })), [dayCount])
const { busy, said, failed, act } = useActing(load)
const { span, time, weekly } = useSavingWords()
const work = computed(() => data.value?.offers.filter((o) => o.measure !== 'other_water') ?? [])
const sources = computed(() => data.value?.offers.filter((o) => o.measure === 'other_water') ?? [])
function task(offer: Schema['OfferOut'], ids: string[]) {
  const id = newId()
  const body = { measure: offer.measure as Schema['SavingTasksIn']['measure'], tree_ids: ids }
  void act(
    () => persist(() => api.PUT('/api/savings/tasks/{batch_id}', { params: { path: { batch_id: id } }, body })),
    t('saving.made', { what: t(`saving.measure.${offer.measure}`), n: ids.length }, ids.length),
    { typed: false },
  )
}
function price(body: Schema['PricesIn']) {
  void act(() => persist(() => api.PUT('/api/part-prices', { body })), t('saving.priced'), { typed: false })
}
</script>

<template>
  <PageFrame :title="t('saving.title')" :error="error" :loading="loading && !data" @retry="load">
    <template #title>
      <h1 class="visually-hidden">{{ t('saving.title') }}</h1>
      <HeadFigure v-if="data?.best" :value="data.best.litres">
        {{ t('saving.best', { n: data.best.trees, time: time(data.best) }, data.best.trees) }}
      </HeadFigure>
    </template>
    <template v-if="data">
      <p role="status" class="said">
        {{ said }}
        <RouterLink v-if="said" :to="{ name: 'care' }">{{ t('saving.toWork') }}</RouterLink>
      </p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <p v-for="p in data.problems" :key="p.site" class="warn">{{ p.site }}: {{ p.words }}</p>
      <p v-if="data.best" class="quiet how">
        {{ t('saving.how', { n: data.seasons, span: span(data.best) }, data.seasons) }}
        {{ t('saving.sentence', { words: weekly(data.best.minutes_a_week) }) }}
      </p>
      <p v-if="!data.offers.length">{{ data.seasons ? t('saving.none') : t('saving.noWeather') }}</p>
      <ol>
        <SavingOffer
          v-for="o in work"
          :key="o.site_id + o.measure"
          :offer="o"
          :busy="busy"
          @task="(ids) => task(o, ids)"
        />
      </ol>
      <section v-if="sources.length">
        <h2 class="ruled-head large">{{ t('saving.sources') }}</h2>
        <p class="quiet">{{ t('saving.sourcesWords') }}</p>
        <ol>
          <SavingOffer v-for="o in sources" :key="o.site_id" :offer="o" :busy="busy" />
        </ol>
      </section>
      <section v-if="data.proved.length">
        <h2 class="ruled-head large">{{ t('saving.proved') }}</h2>
        <ul>
          <li v-for="p in data.proved" :key="p.tree_id + p.measure" class="proved">
            <RouterLink :to="{ name: 'tree-water', params: { id: p.tree_id } }"
              ><strong>{{ p.tag }}</strong></RouterLink
            >
            <span>{{ t(`saving.measure.${p.measure}`) }}, {{ t('saving.since', { day: longDay(p.since) }) }}</span>
            <span
              ><strong>{{
                p.saved_l >= 0
                  ? t('saving.really', { amount: text('volume', p.saved_l, 0) })
                  : t('saving.reallyMore', { amount: text('volume', -p.saved_l, 0) })
              }}</strong>
              <span class="quiet">{{ t('saving.reckoned', { span: span(p) }) }}</span></span
            >
          </li>
        </ul>
      </section>
      <section v-lead class="no-print">
        <h2 class="ruled-head large">{{ t('saving.prices') }}</h2>
        <p class="quiet">{{ t('saving.pricesWords') }}</p>
        <PartPrices :prices="data.prices" :busy="busy" @save="price" />
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
.said:has(a) {
  padding-bottom: var(--space-3);
}
.how {
  max-width: 80ch;
}
section {
  margin-top: var(--space-7);
}
section > .quiet {
  padding: var(--space-2) 0;
  max-width: 80ch;
}
.proved {
  display: grid;
  grid-template-columns: 72px minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 var(--space-4);
  min-height: var(--tap);
  align-items: baseline;
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 767px) {
  .proved {
    grid-template-columns: 72px minmax(0, 1fr);
  }
  .proved > :nth-child(3) {
    grid-column: 2;
  }
}
</style>
