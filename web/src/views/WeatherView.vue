<script setup lang="ts">
/** Weather: what the air took against what fell, the days, the forecast, and a file coming in. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { api, Problem, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import BroughtIn from '@/components/common/BroughtIn.vue'
import DayDialog from '@/components/weather/DayDialog.vue'
import DaysTable from '@/components/weather/DaysTable.vue'
import EtoDialog from '@/components/weather/EtoDialog.vue'
import ImportPanel from '@/components/weather/ImportPanel.vue'
import WeatherChart from '@/components/weather/WeatherChart.vue'
import { dayCount } from '@/composables/useDay'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'
import { moment, monthDay } from '@/logic/dates'
import { isUs, text } from '@/units'

const { t } = useI18n()
const { may } = useSession()
const route = useRoute()
const router = useRouter()
const {
  data: stations,
  error,
  loading,
  load,
} = useResource((signal) => take(api.GET('/api/stations', { signal })), [dayCount])
const chosen = ref(String(route.query.station ?? ''))
const station = computed(() => stations.value?.find((s) => s.id === chosen.value) ?? stations.value?.[0] ?? null)
watch(chosen, (id) => void router.replace({ query: id ? { station: id } : {} }))
const days = useResource(
  async (signal) =>
    station.value
      ? take(
          api.GET('/api/stations/{station_id}/days', {
            params: { path: { station_id: station.value.id }, query: { back: 60 } },
            signal,
          }),
        )
      : null,
  [() => station.value?.id, dayCount],
)
const week = computed(() => days.data.value?.totals.find((x) => x.days === 7))
const month = computed(() => days.data.value?.totals.find((x) => x.days === 30))
const season = computed(() => days.data.value?.season)
/** How much more the season is short than usual. */
const drier = computed(() => {
  const s = season.value!
  return s.eto_mm - s.rain_mm - ((s.eto_usual_mm ?? 0) - (s.rain_usual_mm ?? 0))
})
const asked = ref<Schema['WeatherDayOut'] | null>(null)
const measured = computed(() => [...(days.data.value?.days ?? [])].filter((d) => d.measured).reverse())
const ahead = computed(() => (days.data.value?.days ?? []).filter((d) => !d.measured))
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const fetching = ref(false)
const failed = ref('')
const SHORT = 14
const allDays = ref(false)

const wrong = ref('')
const brought = ref<InstanceType<typeof BroughtIn> | null>(null)
async function changed() {
  await Promise.all([again(), brought.value?.load()])
}
async function again() {
  await Promise.all([load(), days.load()])
}
const forecastTitle = computed(() => t(station.value?.forecast_made_up ? 'weather.madeUp' : 'weather.forecast'))
const here = () => ({ path: { station_id: station.value!.id } })
const fetchForecast = () => ask(() => take(api.POST('/api/stations/{station_id}/forecast', { params: here() })))
const makeUp = (on: boolean) =>
  ask(() => take(api.PUT('/api/stations/{station_id}/made-up-forecast', { params: here(), body: { on } })))
async function ask(send: () => Promise<unknown>) {
  fetching.value = true
  failed.value = ''
  try {
    await send()
    await again()
  } catch (e) {
    failed.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
  } finally {
    fetching.value = false
  }
}
const when = (iso: string) => moment(iso, days.data.value?.zone)
</script>

<template>
  <PageFrame
    :title="t('weather.title')"
    :error="error ?? days.error.value"
    :loading="(loading && !stations) || (Boolean(station) && days.loading.value && !days.data.value)"
    :empty="stations?.length === 0"
    @retry="again"
  >
    <template #beside>
      <div v-if="(stations?.length ?? 0) > 1" class="field">
        <select
          :value="station?.id"
          :aria-label="t('weather.station')"
          @change="chosen = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="s in stations ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
        </select>
      </div>
      <span v-else class="quiet">{{ station?.name ?? '\u00a0' }}</span>
      <span class="links">
        <RouterLink v-if="station" :to="{ name: 'station-edit', params: { id: station.id } }">{{
          t('weather.editStation')
        }}</RouterLink>
        <RouterLink :to="{ name: 'station-new' }">{{ t('weather.add') }}</RouterLink>
      </span>
    </template>
    <template #empty>
      <EmptyPlace :title="t('weather.empty')" :words="t('weather.emptyWords')">
        <RouterLink class="button main" :to="{ name: 'station-new' }">{{ t('weather.add') }}</RouterLink>
      </EmptyPlace>
    </template>
    <template v-if="station">
      <div v-if="week && month && month.measured_days" class="sums">
        <p class="lead">
          <BigFigure dimension="rain" :value="week.eto_mm" :size="64" />
          <span>{{ t('weather.lost') }}</span>
        </p>
        <p class="second">
          {{ t('weather.fell', { amount: text('rain', week.rain_mm) }) }}
          {{
            t(month.short_mm >= 0 ? 'weather.short' : 'weather.over', {
              amount: text('rain', Math.abs(month.short_mm)),
            })
          }}
          <span v-if="month.measured_days < 30" class="warn">{{
            t('weather.gaps', { n: 30 - month.measured_days }, 30 - month.measured_days)
          }}</span>
        </p>
      </div>
      <EmptyPlace v-else-if="days.data.value" :title="t('weather.noDays')" :words="t('weather.noDaysWords')" />
      <p v-if="season && season.measured_days" class="second">
        {{
          t('weather.season', {
            day: monthDay(season.since),
            eto: text('rain', season.eto_mm, isUs ? 1 : 0),
            rain: text('rain', season.rain_mm, isUs ? 1 : 0),
          })
        }}
        <template v-if="season.eto_usual_mm !== null && season.rain_usual_mm !== null">
          {{
            t(
              'weather.usual',
              {
                n: season.years,
                eto: text('rain', season.eto_usual_mm, isUs ? 1 : 0),
                rain: text('rain', season.rain_usual_mm, isUs ? 1 : 0),
              },
              season.years,
            )
          }}
          <strong>{{
            t(drier >= 0 ? 'weather.dry' : 'weather.wet', { amount: text('rain', Math.abs(drier), isUs ? 1 : 0) })
          }}</strong>
        </template>
        <span v-else class="quiet">{{ t('weather.noUsual') }}</span>
      </p>
      <div ref="box" class="chart">
        <WeatherChart
          v-if="days.data.value?.days.length && width > 0"
          :days="days.data.value.days"
          :today="days.data.value.today"
          :width="Math.max(width, 330)"
        />
      </div>
      <div class="halves">
        <section>
          <h2 class="ruled-head">{{ forecastTitle }}</h2>
          <div class="told">
            <p v-if="station.forecast_fetched_at">
              {{ t('weather.forecastFrom', { when: when(station.forecast_fetched_at) }) }}
              <span v-if="station.forecast_stale" class="warn">{{ t('weather.stale') }}</span>
            </p>
            <p v-else class="quiet">
              {{ station.forecast_available ? t('weather.noForecast') : t('weather.noService') }}
            </p>
            <button
              v-if="station.forecast_available"
              type="button"
              class="button"
              :disabled="fetching"
              @click="fetchForecast"
            >
              {{ t('weather.fetch') }}
            </button>
          </div>
          <p v-if="station.forecast_error" class="warn">
            {{ t('weather.forecastFailed', { why: station.forecast_error }) }}
          </p>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
          <label v-if="station.made_up_offered" v-lead class="made-up">
            <input
              type="checkbox"
              :checked="station.made_up_forecast"
              :disabled="fetching"
              @change="makeUp(($event.target as HTMLInputElement).checked)"
            />
            <span>
              <strong>{{ t('weather.madeUpSwitch') }}</strong>
              {{ t('weather.madeUpWords') }}
            </span>
          </label>
          <DaysTable
            v-if="ahead.length"
            :days="ahead"
            :caption="forecastTitle"
            chances
            explains
            @why="(d) => (asked = d)"
          />
        </section>
        <div class="files">
          <ImportPanel :key="station.id" v-lead :station-id="station.id" @stored="changed" />
          <BroughtIn ref="brought" :station-id="station.id" :zone="days.data.value?.zone" @undone="again" />
        </div>
        <section v-if="measured.length" class="full">
          <h2 class="ruled-head">{{ t('weather.days') }}</h2>
          <DaysTable
            :days="allDays ? measured : measured.slice(0, SHORT)"
            :caption="t('weather.days')"
            explains
            :corrects="may('lead')"
            @why="(d) => (asked = d)"
            @correct="(d) => (wrong = d.day)"
          />
          <button v-if="!allDays && measured.length > SHORT" type="button" class="button plain" @click="allDays = true">
            {{ t('trees.more') }}
          </button>
        </section>
      </div>
      <DayDialog v-if="wrong" :station-id="station.id" :day="wrong" @close="wrong = ''" @kept="changed" />
      <EtoDialog v-if="station" :station-id="station.id" :day="asked" @close="asked = null" />
    </template>
  </PageFrame>
</template>

<style scoped>
.links {
  margin-left: auto;
  display: flex;
  gap: var(--space-5);
}
.links a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
.lead {
  display: flex;
  gap: var(--space-4);
  align-items: baseline;
  flex-wrap: wrap;
  font-size: var(--text-4);
  font-weight: 500;
}
.second {
  font-size: var(--text-3);
}
.chart {
  min-height: 294px;
  margin: var(--space-4) 0 var(--space-6);
  overflow-x: auto;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
  gap: var(--space-7);
  align-items: start;
}
.files {
  display: grid;
  gap: var(--space-6);
  min-width: 0;
}
.full {
  grid-column: 1 / -1;
}
.told {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-4);
  padding: var(--space-2) 0;
  flex-wrap: wrap;
}
.made-up {
  display: flex;
  gap: var(--space-3);
  align-items: flex-start;
  padding: var(--space-3) 0;
  min-height: var(--tap);
}
.made-up input {
  width: 24px;
  height: 24px;
  flex: none;
}
@media (max-width: 767px) {
  .links {
    width: 100%;
  }
}
@media (max-width: 1023px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
