<script setup lang="ts">
/** A site: the soil in force, where each value comes from, the tests to take and the tests taken. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import ModeChoice from '@/components/site/ModeChoice.vue'
import RainGauge from '@/components/site/RainGauge.vue'
import SitePlantings from '@/components/site/SitePlantings.vue'
import SiteShares from '@/components/site/SiteShares.vue'
import SiteOwn from '@/components/site/SiteOwn.vue'
import SiteThirst from '@/components/site/SiteThirst.vue'
import SiteStops from '@/components/site/SiteStops.vue'
import SiteBoxes from '@/components/site/SiteBoxes.vue'
import SiteLines from '@/components/site/SiteLines.vue'
import SoilColumn from '@/components/soil/SoilColumn.vue'
import TestOutcome from '@/components/soil/TestOutcome.vue'
import TestPicture from '@/components/soil/TestPicture.vue'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'
import { SITE_FIELDS } from '@/logic/choices'
import { SOIL_TESTS } from '@/logic/soilTests'
import { isUs, one, text } from '@/units'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/soil', { params: { path: { site_id: props.id } }, signal })),
  [() => props.id],
)
const { data: sites, load: loadSites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const site = computed(() => sites.value?.find((s) => s.id === props.id))
const { busy, failed, said, act } = useActing(() => Promise.all([load(), loadSites()]))
function goBy(mode: NonNullable<Schema['SiteIn']['mode']>) {
  const own = site.value
  if (!own) return
  const body = Object.fromEntries(SITE_FIELDS.map((k) => [k, own[k]])) as Schema['SiteIn']
  void act(
    () => take(api.PUT('/api/sites/{site_id}', { params: { path: { site_id: own.id } }, body: { ...body, mode } })),
    t('mode.set', { mode: t(`mode.${mode}`) }),
  )
}
const force = computed(() => data.value!.in_force)
/** Where a value comes from, in words. */
function from(...names: string[]): string {
  const origin = force.value.origin
  const named = names.map((n) => origin[n]).find(Boolean)
  return named
    ? t('soil.from', { test: t(`soil.test.${named.kind}.title`), day: fullDay(named.day) })
    : t('soil.fromTable')
}
const FOOT_M = 0.3048
const facts = computed(() => {
  const s = force.value.soil
  const depth = isUs.value ? FOOT_M : 1
  return [
    { key: 'holds', value: text('rain', s.awc * depth * 1000, isUs.value ? 1 : 0), from: from('awc', 'texture') },
    { key: 'intake', value: text('pace', s.intake_mm_h), from: from('intake_mm_h', 'texture') },
    { key: 'drain', value: `${Math.round(100 * s.drain_share)} %`, from: from('drain_share', 'texture') },
    { key: 'ks', value: one('pace', s.conductivity_mm_h), from: from('conductivity_mm_h', 'texture') },
    { key: 'depth', value: text('small', force.value.root_depth_max_m, 0), from: force.value.origin.root_depth_max_m ? from('root_depth_max_m') : t('soil.fromSite') },
  ] // prettier-ignore
})
const newest = (kind: string) => data.value!.tests.find((x) => x.kind === kind && !x.withdrawn_at)
const withdraw = (testId: string) =>
  act(
    () => take(api.POST('/api/soil-tests/{test_id}/withdraw', { params: { path: { test_id: testId } } })),
    t('soil.withdrawn'),
  )
</script>

<template>
  <PageFrame :title="data?.name" :error="error" :loading="loading && !data" @retry="load">
    <template #beside>
      <RouterLink :to="{ name: 'trees', query: { site: id } }">{{ t('nav.trees') }}</RouterLink>
      <RouterLink :to="{ name: 'ground', params: { id } }">{{ t('ground.title') }}</RouterLink>
      <RouterLink class="button" :to="{ name: 'site-edit', params: { id } }">{{ t('common.edit') }}</RouterLink>
    </template>
    <template v-if="data">
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <p v-if="said" role="status">{{ said }}</p>
      <section class="force">
        <div>
          <p class="label">{{ t('soil.inForce') }}</p>
          <p class="texture">{{ t(`texture.${force.soil.texture}`) }}</p>
          <p class="quiet">{{ force.origin.texture ? from('texture') : t('soil.fromSite') }}</p>
          <SoilColumn :soil="force.soil" :depth-m="force.root_depth_max_m" />
        </div>
        <dl>
          <template v-for="f in facts" :key="f.key">
            <dt>{{ t(isUs ? `soil.fact.${f.key}` : `soil.factMetric.${f.key}`) }}</dt>
            <dd>
              <strong>{{ f.value }}</strong> <span class="quiet">{{ f.from }}</span>
            </dd>
          </template>
        </dl>
      </section>
      <ul v-if="site?.water_codes.length" class="water">
        <li v-for="c in site.water_codes" :key="c">{{ t(`caution.${c}`) }}</li>
      </ul>
      <SitePlantings :site-id="id" />
      <section>
        <h2 class="ruled-head apart">{{ t('soil.tests') }}</h2>
        <ul class="tests">
          <li v-for="s in SOIL_TESTS" :key="s.kind">
            <TestPicture :kind="s.kind" />
            <div>
              <RouterLink class="name" :to="{ name: 'soil-test', params: { id, kind: s.kind } }">{{
                t(`soil.test.${s.kind}.title`)
              }}</RouterLink>
              <p>{{ t(`soil.test.${s.kind}.tells`) }}</p>
              <p v-if="newest(s.kind)" class="quiet">
                {{ t('soil.last', { day: fullDay(newest(s.kind)!.day) }) }}
              </p>
            </div>
            <RouterLink
              class="button"
              :to="{ name: 'soil-test', params: { id, kind: s.kind } }"
              :aria-label="`${t('soil.take')}: ${t(`soil.test.${s.kind}.title`)}`"
              >{{ t('soil.take') }}</RouterLink
            >
          </li>
        </ul>
      </section>
      <SiteStops :site-id="id" />
      <SiteLines :site-id="id" />
      <SiteBoxes :site-id="id" />
      <SiteThirst :id="id" />
      <SiteOwn :site-id="id" />
      <SiteShares :site-id="id" />
      <ModeChoice v-if="site" :site-id="id" :mode="site.mode" :busy="busy" @use="goBy" />
      <RainGauge :site-id="id" @changed="load" />
      <section v-if="data.tests.length">
        <h2 class="ruled-head apart">{{ t('soil.record') }}</h2>
        <ul class="record">
          <li v-for="x in data.tests" :key="x.id" :class="{ gone: x.withdrawn_at }">
            <span class="day">{{ fullDay(x.day) }}</span>
            <div>
              <p>
                <strong>{{ t(`soil.test.${x.kind}.title`) }}</strong>
                <span v-if="x.place" class="quiet">{{ ` ${x.place}` }}</span>
              </p>
              <TestOutcome class="brief" :outcome="x.outcome" brief />
              <p v-if="x.note" class="quiet">{{ x.note }}</p>
            </div>
            <span>{{
              t(x.withdrawn_at ? 'soil.stands.withdrawn' : x.used ? 'soil.stands.used' : 'soil.stands.kept')
            }}</span>
            <button
              v-if="!x.withdrawn_at"
              type="button"
              class="button plain"
              :disabled="busy"
              :aria-label="t('soil.withdrawOf', { test: t(`soil.test.${x.kind}.title`), day: fullDay(x.day) })"
              @click="withdraw(x.id)"
            >
              {{ t('soil.withdraw') }}
            </button>
          </li>
        </ul>
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
header .button {
  margin-left: auto;
}
.label {
  color: var(--ink-2);
}
.texture {
  font-size: var(--text-6);
  font-weight: 600;
  line-height: 1.05;
}
.force {
  display: grid;
  grid-template-columns: minmax(0, 520px) minmax(0, 1fr);
  gap: var(--space-5) var(--space-8);
}
.force > div {
  display: grid;
  gap: var(--space-2);
  align-content: start;
}
dl {
  display: grid;
  align-content: start;
  border-top: 2px solid var(--ink);
}
dt {
  color: var(--ink-2);
  padding-top: var(--space-2);
}
dd {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: baseline;
  gap: 0 var(--space-4);
  border-bottom: 1px solid var(--hair);
  padding-bottom: var(--space-2);
}
dd strong {
  font-size: var(--text-4);
  font-weight: 600;
}
.tests li {
  display: grid;
  grid-template-columns: 72px 1fr auto;
  gap: var(--space-1) var(--space-5);
  align-items: center;
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
}
.name {
  font-size: var(--text-3);
  font-weight: 600;
  color: var(--ink);
  display: inline-block;
  min-height: 28px;
}
.record li {
  display: grid;
  grid-template-columns: 116px 1fr 160px auto;
  gap: var(--space-1) var(--space-5);
  align-items: baseline;
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
}
.water {
  margin-top: var(--space-4);
  display: grid;
  gap: var(--space-1);
}
.record .gone {
  color: var(--ink-2);
}
.record .gone strong,
.record .gone :deep(.head) {
  text-decoration: line-through;
}
@media (max-width: 1023px) {
  .force {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 600px) {
  .tests li {
    grid-template-columns: 56px 1fr;
  }
  .tests .button {
    grid-column: 1 / -1;
  }
  .record li {
    grid-template-columns: 1fr auto;
  }
  .record li > div {
    grid-column: 1 / -1;
    grid-row: 2;
  }
  dd {
    display: block;
  }
}
</style>
