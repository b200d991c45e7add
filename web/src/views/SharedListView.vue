<script setup lang="ts">
/** What a client may look at who signs in. */
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import OwnAccount from '@/components/account/OwnAccount.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'

const { t } = useI18n()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/shared', { signal })))
</script>

<template>
  <PageFrame
    :title="t('share.yours')"
    :error="error"
    :loading="loading && !data"
    :empty="data?.length === 0"
    @retry="load"
  >
    <template #empty><EmptyPlace :title="t('share.none')" :words="t('share.noneWords')" /></template>
    <ul>
      <li v-for="one in data ?? []" :key="one.path">
        <RouterLink :to="one.path">{{ one.site }}</RouterLink>
        <span class="quiet">{{ t('share.until', { day: fullDay(one.ends_on) }) }}</span>
      </li>
    </ul>
    <template #below><OwnAccount class="own" /></template>
  </PageFrame>
</template>

<style scoped>
li {
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-4);
  align-items: center;
}
a {
  display: inline-flex;
  align-items: center;
  min-height: var(--tap);
  font-size: var(--text-3);
  font-weight: 600;
}
.own {
  margin-top: var(--space-7);
}
</style>
