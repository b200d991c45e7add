<script setup lang="ts">
/** Days of weather as ruled lines: what was measured or is forecast, its ETo and how that was made. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { longDay } from '@/logic/dates'
import { text, type Dimension } from '@/units'

const props = defineProps<{
  days: Schema['WeatherDayOut'][]
  caption: string
  chances?: boolean
  explains?: boolean
  corrects?: boolean
}>()
defineEmits<{ why: [day: Schema['WeatherDayOut']]; correct: [day: Schema['WeatherDayOut']] }>()
const { t } = useI18n()
/** What no day of them has takes no column. */
const damp = computed(() => props.days.some((d) => d.humidity_percent !== null))
const windy = computed(() => props.days.some((d) => d.wind_m_s !== null))
const cell = (dimension: Dimension, value: number | null) => (value === null ? '–' : text(dimension, value))
const how = (method: string) =>
  method
    .split('+')
    .map((word) => t(`eto_method.${word || 'none'}`))
    .join(', ')
</script>

<template>
  <div class="scroll" tabindex="0" role="region" :aria-label="caption">
    <table class="ruled">
      <caption class="visually-hidden">
        {{
          caption
        }}
      </caption>
      <thead>
        <tr>
          <th scope="col">{{ t('weather.day') }}</th>
          <th scope="col" class="num">{{ t('weather.rain') }}</th>
          <th v-if="chances" scope="col" class="num">{{ t('weather.chanceHead') }}</th>
          <th scope="col" class="num">{{ t('weather.eto') }}</th>
          <th scope="col" class="num">{{ t('weather.low') }}</th>
          <th scope="col" class="num">{{ t('weather.high') }}</th>
          <th v-if="damp" scope="col" class="num">{{ t('weather.humidity') }}</th>
          <th v-if="windy" scope="col" class="num">{{ t('weather.wind') }}</th>
          <th scope="col" class="how">{{ t('weather.how') }}</th>
          <th v-if="corrects" scope="col">
            <span class="visually-hidden">{{ t('weather.correct') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="d in days" :key="d.day">
          <td class="day">{{ longDay(d.day) }}</td>
          <td class="num">
            <strong v-if="d.rain_mm">{{ text('rain', d.rain_mm) }}</strong><span v-else>{{
              cell('rain', d.rain_mm)
            }}</span>
          </td>
          <td v-if="chances" class="num">{{ Math.round(d.rain_chance * 100) }}{{ '\u00a0%' }}</td>
          <td class="num">
            <button
              v-if="explains && d.eto_mm !== null"
              type="button"
              class="button plain why"
              :aria-label="`${longDay(d.day)}: ${t('weather.etoWhy', { amount: text('rain', d.eto_mm) })}`"
              @click="$emit('why', d)"
            >
              {{ text('rain', d.eto_mm) }}
            </button>
            <template v-else>{{ cell('rain', d.eto_mm) }}</template>
          </td>
          <td class="num">{{ cell('temperature', d.tmin_c) }}</td>
          <td class="num">{{ cell('temperature', d.tmax_c) }}</td>
          <td v-if="damp" class="num">
            {{ d.humidity_percent === null ? '–' : `${Math.round(d.humidity_percent)}\u00a0%` }}
          </td>
          <td v-if="windy" class="num">{{ cell('wind', d.wind_m_s) }}</td>
          <td class="how narrow">
            {{ how(d.method) }}
            <span v-if="d.flags.length" class="warn">{{ d.flags.map((x) => t(`weather.flag.${x}`)).join(', ') }}</span>
          </td>
          <td v-if="corrects">
            <button
              type="button"
              class="button plain why"
              :aria-label="`${t('weather.correct')}: ${longDay(d.day)}`"
              @click="$emit('correct', d)"
            >
              {{ t('weather.correct') }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  position: relative; /* what is hidden from eyes in it stays in it */
  overflow-x: auto;
}
.why {
  padding: 0;
  font-weight: 400;
  min-height: 28px;
}
@media (max-width: 767px) {
  .why {
    min-height: var(--tap);
  }
}
.day {
  white-space: nowrap;
}
.how {
  padding-left: var(--space-5) !important;
}
</style>
