<script setup lang="ts">
/** The crews: what each has, which sites are theirs. */
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useResource } from '@/composables/useResource'
import { weekdayShort } from '@/logic/dates'
import { text } from '@/units'

const { t } = useI18n()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/crews', { signal })))
const EVERY_DAY = 7
const days = (crew: Schema['CrewOut']) =>
  crew.working_days.length === EVERY_DAY
    ? t('crews.everyDay')
    : crew.working_days.map((d) => weekdayShort(`2024-01-0${d + 1}`)).join(', ')
</script>

<template>
  <PageFrame
    :title="t('crews.title')"
    :error="error"
    :loading="loading && !data"
    :empty="data?.length === 0"
    @retry="load"
  >
    <template #beside>
      <RouterLink class="button main" :to="{ name: 'crew-new' }">{{ t('crews.add') }}</RouterLink>
    </template>
    <template #empty>
      <EmptyPlace :title="t('crews.empty')" :words="t('crews.emptyWords')">
        <RouterLink class="button main" :to="{ name: 'crew-new' }">{{ t('crews.add') }}</RouterLink>
      </EmptyPlace>
    </template>
    <ul>
      <li v-for="c in data ?? []" :key="c.id">
        <div class="head">
          <h2>{{ c.name }}</h2>
          <RouterLink
            class="button"
            :to="{ name: 'crew-edit', params: { id: c.id } }"
            :aria-label="t('crews.edit', { name: c.name })"
            >{{ t('common.edit') }}</RouterLink
          >
        </div>
        <p class="large">
          {{ t('crews.has', { n: c.people, hours: c.hours, days: days(c) }, c.people!) }}
          {{ c.tank_l ? t('crews.hasTank', { amount: text('volume', c.tank_l, 0) }) : '' }}
          {{ t('crews.hasHoses', { n: c.hoses }, c.hoses!) }}
        </p>
        <p class="quiet">{{ c.sites.length ? t('crews.sites', { sites: c.sites.join(', ') }) : t('crews.noSites') }}</p>
      </li>
    </ul>
  </PageFrame>
</template>

<style scoped>
li {
  padding: var(--space-4) 0;
  border-bottom: 1px solid var(--hair);
  display: grid;
  gap: var(--space-1);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-4);
}
h2 {
  font-size: var(--text-4);
}
.large {
  font-size: var(--text-3);
}
</style>
