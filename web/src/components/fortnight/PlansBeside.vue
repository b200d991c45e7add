<script setup lang="ts">
/** Plans beside the standing one, and what ever more water would buy. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { isUs, text } from '@/units'
import { fixed } from '@/logic/numbers'

type Plan = Schema['BesidePlan']
defineProps<{ beside: Schema['BesideOut'] | null }>()
const { t } = useI18n()
const HOUR_MIN = 60
const hours = (minutes: number) => t('drought.hours', { n: fixed(minutes / HOUR_MIN, 1) })
const litres = (p: Plan | undefined) => text('volume', (isUs.value ? p?.litres_us : p?.litres) ?? 0, 0)
const name = (p: Plan) => t(`drought.named.${p.name}`, { n: p.trees }, p.trees)
</script>

<template>
  <section class="beside">
    <h2 class="ruled-head large">{{ t('drought.beside') }}</h2>
    <p v-if="!beside" class="quiet">{{ t('drought.notCompared') }}</p>
    <template v-else>
      <p class="quiet">{{ t('drought.besideWords') }}</p>
      <div class="scroll">
        <table class="ruled">
          <thead>
            <tr>
              <th scope="col">{{ t('drought.plan') }}</th>
              <th scope="col" class="num">{{ t('drought.mayDie') }}</th>
              <th scope="col" class="num">{{ t('drought.suffer') }}</th>
              <th scope="col" class="num">{{ t('drought.slower') }}</th>
              <th scope="col" class="num wide">{{ t('drought.waterWeek') }}</th>
              <th scope="col" class="num wide">{{ t('drought.hoursWeek') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in beside.plans" :key="p.name">
              <td>{{ name(p) }}</td>
              <td class="num" :class="{ warn: p.may_die }">{{ p.may_die }}</td>
              <td class="num">{{ p.leaves_suffer }}</td>
              <td class="num">{{ p.slower_growth }}</td>
              <td class="num wide">{{ litres(p) }}</td>
              <td class="num wide">{{ hours(p.minutes) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <h3>{{ t('drought.caps') }}</h3>
      <p class="quiet">
        {{ t('drought.capsWords', { litres: litres(beside.caps[beside.knee]) }) }}
      </p>
      <table class="ruled">
        <thead>
          <tr>
            <th scope="col">{{ t('drought.waterWeek') }}</th>
            <th scope="col" class="num">{{ t('drought.mayDie') }}</th>
            <th scope="col" class="num">{{ t('drought.suffer') }}</th>
            <th scope="col" class="num">{{ t('drought.slower') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(c, n) in beside.caps" :key="n" :class="{ knee: n === beside.knee }">
            <td>{{ litres(c) }}</td>
            <td class="num" :class="{ warn: c.may_die }">{{ c.may_die }}</td>
            <td class="num">{{ c.leaves_suffer }}</td>
            <td class="num">{{ c.slower_growth }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.beside {
  margin-top: var(--space-7);
}
h3 {
  font-size: var(--text-3);
  padding-top: var(--space-4);
}
.quiet {
  padding: var(--space-2) 0;
}
table {
  width: min(100%, 760px);
}
.knee > * {
  font-weight: 700;
  border-bottom: 2px solid var(--ink);
}
@media (max-width: 767px) {
  .wide {
    display: none;
  }
  th.num {
    white-space: normal;
  }
}
</style>
