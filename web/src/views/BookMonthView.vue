<script setup lang="ts">
/** A month of a site for its client, to print: water and rain, what was seen and done, how the trees stand. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import MonthBody from '@/components/book/MonthBody.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useClock } from '@/composables/useClock'
import { useResource } from '@/composables/useResource'
import { daysOn, monthsOn, monthYear } from '@/logic/dates'

const { t } = useI18n()
const { clock, refresh } = useClock()
const route = useRoute()
const router = useRouter()
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const site = computed(() => (typeof route.query.site === 'string' ? route.query.site : (sites.value?.[0]?.id ?? null)))
const asked = computed(() => (typeof route.query.month === 'string' ? route.query.month : null))
const { data, error, loading, load } = useResource(
  async (signal) => {
    if (!site.value) return null
    if (!asked.value && !clock.value) await refresh()
    const month = asked.value ? `${asked.value}-01` : clock.value!.day
    return take(api.GET('/api/book/month', { params: { query: { site_id: site.value, month } }, signal }))
  },
  [site, asked],
)
function turn(months: number) {
  const to = monthsOn(data.value!.first, months).slice(0, 7)
  void router.replace({ query: { ...route.query, site: site.value, month: to } })
}
const print = () => window.print()
const isLast = computed(() => !data.value || data.value.last < daysOn(monthsOn(data.value.first, 1), -1))
</script>

<template>
  <PageFrame
    :title="t('bookPage.page.month')"
    :error="error"
    :loading="loading && !data"
    :empty="sites?.length === 0"
    @retry="load"
  >
    <template #title>
      <h1>
        {{
          data
            ? t('bookPage.monthTitle', { site: data.site_name, month: monthYear(data.first) })
            : t('bookPage.page.month')
        }}
      </h1>
    </template>
    <template #beside>
      <span class="acts no-print">
        <button type="button" class="button" :disabled="!data" @click="turn(-1)">{{ t('bookPage.earlier') }}</button>
        <button type="button" class="button" :disabled="!data || isLast" @click="turn(1)">
          {{ t('bookPage.later') }}
        </button>
        <button type="button" class="button main" :disabled="!data" @click="print">{{ t('bookPage.print') }}</button>
      </span>
    </template>
    <template #above>
      <div v-if="sites && sites.length > 1" class="field pick no-print">
        <label for="month-site">{{ t('bookPage.site') }}</label>
        <select
          id="month-site"
          class="plain-input"
          :value="site"
          @change="(e) => router.replace({ query: { ...route.query, site: (e.target as HTMLSelectElement).value } })"
        >
          <option v-for="s in sites" :key="s.id" :value="s.id">{{ s.name }}</option>
        </select>
      </div>
    </template>
    <template #empty><EmptyPlace :title="t('bookPage.none')" :words="t('bookPage.noneWords')" /></template>
    <template v-if="data">
      <MonthBody :month="data" :reload="load" />
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
.pick {
  max-width: 320px;
  margin-bottom: var(--space-4);
}
</style>
