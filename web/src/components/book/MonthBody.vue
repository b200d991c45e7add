<script setup lang="ts">
/** A month of a site: water and rain in a sentence and day by day, then what was seen and done. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import BookRows from '@/components/book/BookRows.vue'
import MonthChart from '@/components/book/MonthChart.vue'
import { useHow } from '@/composables/useHow'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'

/** open: for whoever has a link; nothing leads further. */
defineProps<{ month: Schema['BookMonth']; reload: () => Promise<unknown>; open?: boolean }>()
const { t } = useI18n()
const { time } = useHow()
</script>

<template>
  <div>
    <p class="says">
      {{
        t(
          'bookPage.monthSays',
          {
            water: text('volume', month.numbers.litres, 0),
            n: month.numbers.waterings,
            trees: month.numbers.trees,
            rain: text('rain', month.rain_mm),
          },
          month.numbers.waterings,
        )
      }}
    </p>
    <p>
      {{ fullDay(month.first) }} – {{ fullDay(month.last) }}.
      {{ t('bookPage.standing', { n: month.standing }, month.standing) }}
      <template v-if="month.numbers.hours"
        >{{
          t('bookPage.hours', { time: time(60 * month.numbers.hours), n: month.numbers.days }, month.numbers.days)
        }}.</template
      >
    </p>
    <MonthChart :days="month.days" />
    <h2>{{ t('bookPage.seenDone') }}</h2>
    <p v-if="!month.rows.length" class="quiet">{{ t('bookPage.nothing') }}</p>
    <BookRows :rows="month.rows" named fixed :open="open" :reload="reload" />
  </div>
</template>

<style scoped>
.says {
  font-size: var(--text-4);
  font-weight: 600;
}
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
}
</style>
