<script setup lang="ts">
/** When to plant a batch: months of a usual year side by side, then the days of the coming fortnight. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { longDay, monthName } from '@/logic/dates'
import { show, text, unitLabel } from '@/units'
import { fixed } from '@/logic/numbers'

const props = defineProps<{ id: string; changed: unknown }>()
const { t } = useI18n()
const { data, error, loading } = useResource(
  (signal) =>
    take(api.GET('/api/plantings/{planting_id}/when', { params: { path: { planting_id: props.id } }, signal })),
  [() => props.id, () => props.changed],
)
const most = computed(() => Math.max(1, ...(data.value?.months.map((m) => m.litres) ?? [])))
const HOUR_MIN = 60
const hours = (minutes: number | null) =>
  minutes === null ? t('planting.when.noLimit') : t('planting.when.hours', { n: fixed(minutes / HOUR_MIN, 1) })
const lead = computed(() => {
  const w = data.value!
  const planned = w.months.find((m) => m.month === w.planned_month)
  const best = w.months.find((m) => m.month === w.best_month)
  if (!best || !planned) return t('planting.when.none')
  const percent = Math.round(100 * (w.saved_share ?? 0))
  const names = { best: monthName(best.month), planned: monthName(planned.month), percent }
  return percent > 0 || planned.against.length
    ? t(percent > 0 ? 'planting.when.best' : 'planting.when.better', names)
    : t('planting.when.same', names)
})
const nearest = computed(() => data.value?.days.find((d) => d.day === data.value?.nearest_day))
const chosen = computed(() => data.value?.days.find((d) => d.day === data.value?.best_day))
const words = (against: string[]) => against.map((a) => t(`planting.when.against.${a}`)).join(', ')
</script>

<template>
  <section class="when">
    <h2 class="ruled-head large">{{ t('planting.when.title') }}</h2>
    <p v-if="loading && !data" class="quiet">{{ t('common.loading') }}</p>
    <p v-if="error" class="warn">{{ error.detail }}</p>
    <p v-if="data?.problem" class="warn">{{ data.problem }}</p>
    <div v-if="data && !data.problem" class="both">
      <div>
        <h3>{{ t('planting.when.days') }}</h3>
        <p class="lead">
          {{
            chosen
              ? t(
                  'planting.when.bestDay',
                  {
                    day: longDay(chosen.day),
                    n: data.trees,
                    time: hours(data.needs_min),
                    amount: text('volume', chosen.litres, 0),
                  },
                  data.trees,
                )
              : t('planting.when.noDay', { day: longDay(nearest!.day), why: words(nearest!.against) })
          }}
        </p>
        <p v-if="chosen" class="quiet">
          {{ t('planting.when.stock') }} <template v-if="chosen.dig_dry">{{ t('planting.when.dry') }}</template>
        </p>
        <table class="ruled">
          <thead>
            <tr>
              <th scope="col">{{ t('planting.when.day') }}</th>
              <th scope="col" class="num">{{ t('planting.when.temperature') }}</th>
              <th scope="col" class="num wide">{{ t('planting.when.hands') }}</th>
              <th scope="col">{{ t('planting.when.why') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="d in data.days" :key="d.day" :class="{ best: d.day === data.best_day }">
              <th scope="row">{{ longDay(d.day) }}</th>
              <td class="num">{{ show('temperature', d.low_c).value }} – {{ text('temperature', d.high_c) }}</td>
              <td class="num wide">{{ hours(d.left_min) }}</td>
              <td>{{ d.against.length ? words(d.against) : t('planting.when.fit') }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div>
        <h3>{{ t('planting.when.months') }}</h3>
        <template v-if="data.months.length">
          <p class="lead">{{ lead }}</p>
          <table class="ruled months">
            <thead>
              <tr>
                <th scope="col">{{ t('planting.when.month') }}</th>
                <th scope="col" class="bars">
                  {{ t('planting.when.water') }} <span class="quiet">{{ unitLabel('volume') }}</span>
                </th>
                <th scope="col">{{ t('planting.when.why') }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="m in data.months" :key="m.month" :class="{ best: m.month === data.best_month }">
                <th scope="row">{{ monthName(m.month) }}</th>
                <td class="bars">
                  <span class="bar" :style="{ width: `${(62 * m.litres) / most}%` }" aria-hidden="true"></span>
                  <span class="num">{{ show('volume', m.litres, 0).value }}</span>
                </td>
                <td>{{ words(m.against) }}</td>
              </tr>
            </tbody>
          </table>
        </template>
        <p v-else class="quiet">{{ t('planting.when.noYear') }}</p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.when {
  margin: var(--space-6) 0;
}
h3 {
  font-size: var(--text-3);
  padding-top: var(--space-3);
}
.both {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: var(--space-4) var(--space-7);
}
table {
  width: 100%;
}
tbody th {
  border-bottom: 1px solid var(--hair);
  font-weight: 400;
}
tr.best > * {
  font-weight: 700;
}
.bars {
  width: 50%;
}
td.bars {
  white-space: nowrap;
}
.bar {
  display: inline-block;
  height: 14px;
  margin-right: var(--space-2);
  background: var(--water);
  vertical-align: middle;
}
@media (max-width: 1023px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 767px) {
  .wide {
    display: none;
  }
}
</style>
