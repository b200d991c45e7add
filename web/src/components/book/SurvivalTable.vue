<script setup lang="ts">
/** How many of a group of trees survive: a bar with the range that it lies in, and the counts behind it. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'

defineProps<{ title: string; rows: Schema['SurvivalOut'][]; name: (group: string) => string }>()
const { t } = useI18n()
const percent = (share: number) => Math.round(100 * share)
</script>

<template>
  <section>
    <h3>{{ title }}</h3>
    <div class="scrolls" tabindex="0" role="region" :aria-label="title">
      <table class="ruled">
        <thead>
          <tr>
            <th scope="col">
              <span class="visually-hidden">{{ title }}</span>
            </th>
            <th scope="col" class="num">{{ t('bookPage.planted') }}</th>
            <th scope="col" class="num">{{ t('bookPage.stand') }}</th>
            <th scope="col" class="num">{{ t('bookPage.lost') }}</th>
            <th scope="col">{{ t('bookPage.share') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.group">
            <th scope="row">{{ r.group ? name(r.group) : t('bookPage.unknown') }}</th>
            <td class="num">{{ r.planted }}</td>
            <td class="num">{{ r.standing }}</td>
            <td class="num">{{ r.lost }}</td>
            <td>
              <template v-if="r.share !== null">
                <svg width="120" height="14" viewBox="0 0 120 14" aria-hidden="true">
                  <rect x="0.5" y="0.5" width="119" height="13" class="all" />
                  <rect x="0.5" y="0.5" :width="119 * r.share" height="13" class="stand" />
                  <path
                    :d="`M${119 * (r.low ?? 0)} 7H${119 * (r.high ?? 1)}M${119 * (r.low ?? 0)} 3v8M${119 * (r.high ?? 1)} 3v8`"
                    class="range"
                  />
                </svg>
                {{
                  t('bookPage.range', { share: percent(r.share), low: percent(r.low ?? 0), high: percent(r.high ?? 1) })
                }}
              </template>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
h3 {
  font-size: var(--text-2);
  margin-top: var(--space-5);
}
.scrolls {
  overflow-x: auto;
}
th[scope='row'] {
  font-weight: 500;
  text-align: left;
  border-bottom: 1px solid var(--hair);
}
svg {
  vertical-align: middle;
  margin-right: var(--space-2);
}
.all {
  fill: var(--paper);
  stroke: var(--ink);
}
.stand {
  fill: var(--water-pale);
  stroke: var(--ink);
}
.range {
  stroke: var(--ink);
  stroke-width: 1.6;
  fill: none;
}
td {
  white-space: nowrap;
}
</style>
