<script setup lang="ts">
/** Sites: a place with one soil, one hose and the weather it goes by. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { fullDay, weekdayName } from '@/logic/dates'
import { amount, isUs, text } from '@/units'

const { t } = useI18n()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/sites', { signal })))

function facts(site: Schema['SiteOut']): string {
  // what a depth of soil holds, in the depth that a crew thinks in: a foot or a meter
  const depth_m = isUs.value ? 0.3048 : 1
  const awc = text('rain', site.soil.awc * depth_m * 1000, isUs.value ? 1 : 0)
  return t(isUs.value ? 'sites.soilFacts' : 'sites.soilFactsMetric', {
    awc,
    intake: text('pace', site.soil.intake_mm_h),
  })
}
const { data: shut, load: loadShut } = useResource((signal) =>
  take(api.GET('/api/sites', { params: { query: { closed: true } }, signal })),
)
const { busy, failed, act } = useActing(() => Promise.all([load(), loadShut()]))
const sure = ref('')
function close(site: Schema['SiteOut'], closed: boolean) {
  if (closed && sure.value !== site.id) {
    sure.value = site.id
    return
  }
  sure.value = ''
  const path = { site_id: site.id }
  void act(() => take(api.PUT('/api/sites/{site_id}/closed', { params: { path }, body: { closed } })), '')
}
function earlier(site: Schema['SiteOut'], i: number) {
  const stops = site.stops.map((s) => s.id)
  stops.splice(i - 1, 0, ...stops.splice(i, 1))
  void act(
    () => take(api.PUT('/api/sites/{site_id}/stops', { params: { path: { site_id: site.id } }, body: { stops } })),
    '',
  )
}
function bucket(site: Schema['SiteOut']): string {
  const size = isUs.value ? 5 : 10
  const seconds = Math.round((size / amount('flow', site.hose_flow_l_per_h)) * 3600)
  return t('sites.bucketTime', { size: `${size}\u00a0${t(isUs.value ? 'sites.gal' : 'sites.litre')}`, seconds })
}
</script>

<template>
  <PageFrame
    :title="t('sites.title')"
    :error="error"
    :loading="loading && !data"
    :empty="data?.length === 0"
    @retry="load"
  >
    <template #beside>
      <RouterLink class="button main" :to="{ name: 'site-new' }">{{ t('sites.add') }}</RouterLink>
      <RouterLink class="copy" :to="{ name: 'crews' }">{{ t('crews.title') }}</RouterLink>
      <RouterLink class="copy" :to="{ name: 'copy' }">{{ t('copy.title') }}</RouterLink>
    </template>
    <template #empty>
      <EmptyPlace :title="t('sites.empty')" :words="t('sites.emptyWords')">
        <RouterLink class="button main" :to="{ name: 'site-new' }">{{ t('sites.add') }}</RouterLink>
      </EmptyPlace>
    </template>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <ul class="sites">
      <li v-for="s in data ?? []" :key="s.id">
        <div class="head">
          <h2>
            <RouterLink :to="{ name: 'site', params: { id: s.id } }">{{ s.name }}</RouterLink>
          </h2>
          <RouterLink :to="{ name: 'trees', query: { site: s.id } }">{{
            t('trees.count', { n: s.trees }, s.trees)
          }}</RouterLink>
          <RouterLink
            class="button"
            :to="{ name: 'site-edit', params: { id: s.id } }"
            :aria-label="t('sites.edit', { name: s.name })"
            >{{ t('common.edit') }}</RouterLink
          >
        </div>
        <div class="facts">
          <div>
            <p class="label">{{ t('sites.flow') }}</p>
            <BigFigure dimension="flow" :value="s.hose_flow_l_per_h" :size="40" />
            <p class="quiet">{{ bucket(s) }}</p>
            <p v-if="s.tank_l" class="quiet">{{ t('sites.tankOf', { size: text('volume', s.tank_l, 0) }) }}</p>
            <p v-if="s.working_days.length < 7" class="quiet">{{ s.working_days.map(weekdayName).join(', ') }}</p>
          </div>
          <div>
            <p class="label">{{ t('sites.soil') }}</p>
            <p class="word">{{ t(`texture.${s.soil.texture}`) }}</p>
            <p class="quiet">{{ facts(s) }}</p>
            <p class="quiet">{{ t('sites.depth') }} {{ text('small', s.root_depth_in_force_m, 0) }}</p>
            <RouterLink class="tests" :to="{ name: 'site', params: { id: s.id } }">{{
              t('sites.soilTests')
            }}</RouterLink>
          </div>
          <div>
            <p class="label">{{ t('sites.station') }}</p>
            <p v-if="s.station_name" class="word">
              <RouterLink :to="{ name: 'weather', query: { station: s.station_id ?? undefined } }">{{
                s.station_name
              }}</RouterLink>
            </p>
            <p v-else class="warn">{{ t('sites.noWeather') }}</p>
            <p class="quiet">
              {{ t('sites.climate') }} {{ t(`sites.${s.climate}`) }}. {{ s.timezone.replace('_', ' ') }}
            </p>
          </div>
          <div>
            <p class="label">{{ t('sites.stops') }}</p>
            <ol class="stops">
              <li v-for="(stop, i) in s.stops" :key="stop.id">
                <RouterLink :to="{ name: 'trees', query: { site: s.id, stop: stop.name } }">{{ stop.name }}</RouterLink>
                <button
                  v-if="i > 0"
                  v-lead
                  type="button"
                  class="button plain"
                  :disabled="busy"
                  :aria-label="t('sites.earlier', { stop: stop.name })"
                  @click="earlier(s, i)"
                >
                  ↑
                </button>
              </li>
            </ol>
          </div>
        </div>
        <button v-lead type="button" class="button plain close" :disabled="busy" @click="close(s, true)">
          {{ t(sure === s.id ? 'sites.closeSure' : 'sites.close') }}
        </button>
      </li>
    </ul>
    <template #below>
      <details v-if="shut?.length" class="shut no-print">
        <summary>{{ t('sites.closed', shut.length) }}</summary>
        <ul>
          <li v-for="s in shut" :key="s.id">
            <strong>{{ s.name }}</strong> {{ t('sites.closedOn', { day: fullDay(s.closed_on!) }) }}
            <button v-lead type="button" class="button" :disabled="busy" @click="close(s, false)">
              {{ t('sites.reopen') }}
            </button>
          </li>
        </ul>
      </details>
    </template>
  </PageFrame>
</template>

<style scoped>
.page > header .button {
  margin-left: auto;
}
.sites > li {
  border-top: 2px solid var(--ink);
  padding: var(--space-3) 0 var(--space-6);
}
.head {
  display: flex;
  align-items: baseline;
  gap: var(--space-4);
  margin-bottom: var(--space-3);
}
.head a.button {
  margin-left: auto;
}
.head {
  flex-wrap: wrap;
}
.shut {
  margin-top: var(--space-6);
}
.shut summary {
  min-height: var(--tap);
  padding: var(--space-3) 0;
  cursor: pointer;
}
.shut li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-3);
  padding: var(--space-2) 0;
}
.facts {
  display: grid;
  grid-template-columns: 220px 1.2fr 1.2fr 1fr;
  gap: var(--space-6);
}
.label {
  color: var(--ink-2);
}
.word {
  font-size: var(--text-4);
  font-weight: 600;
}
ol li {
  line-height: 1.6;
}
@media (max-width: 1023px) {
  .facts {
    grid-template-columns: 1fr 1fr;
    gap: var(--space-4);
  }
}
@media (max-width: 600px) {
  .facts {
    grid-template-columns: 1fr;
  }
}
.stops li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: var(--space-2);
}
h2 a {
  color: var(--ink);
}
.tests {
  display: inline-flex;
  align-items: center;
  min-height: var(--tap);
}
.stops .button {
  min-width: 44px;
}
</style>
