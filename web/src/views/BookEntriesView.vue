<script setup lang="ts">
/** Every entry of the book, the newest first, by what is looked for. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import BookFilters from '@/components/book/BookFilters.vue'
import BookRows from '@/components/book/BookRows.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useBookQuery } from '@/composables/useBookQuery'
import { useResource } from '@/composables/useResource'
import { figure } from '@/logic/numbers'

const PIECE = 100
const { t } = useI18n()
const { query, asked, change, clear } = useBookQuery()
const limit = ref(PIECE)
watch(asked, () => (limit.value = PIECE))
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/book', { params: { query: { ...asked.value, limit: limit.value } }, signal })),
  [() => JSON.stringify(asked.value), limit],
  { live: true },
)
const MOST = 500
const left = computed(() => (data.value ? data.value.count - data.value.rows.length : 0))
const more = computed(() => left.value > 0 && limit.value < MOST)
const file = (ending: string) => {
  const words = new URLSearchParams()
  for (const [name, value] of Object.entries(asked.value)) {
    for (const one of Array.isArray(value) ? value : value === undefined ? [] : [value]) words.append(name, String(one))
  }
  return `/api/book.${ending}?${words}`
}
</script>

<template>
  <PageFrame
    :title="t('bookPage.title')"
    :error="error"
    :loading="loading && !data"
    :empty="data?.count === 0"
    @retry="load"
  >
    <template #beside>
      <span v-if="data" class="quiet" role="status">{{
        t('bookPage.found', { n: figure(data.count) }, data.count)
      }}</span>
      <span class="files no-print">
        <a :href="file('csv')" download>{{ t('bookPage.file.csv') }}</a>
        <a :href="file('jsonl')" download>{{ t('bookPage.file.jsonl') }}</a>
      </span>
    </template>
    <template #above><BookFilters :query="query" @change="change" /></template>
    <template #empty>
      <EmptyPlace :title="t('bookPage.none')" :words="t('bookPage.noneWords')">
        <button type="button" class="button main" @click="clear">{{ t('bookPage.showAll') }}</button>
      </EmptyPlace>
    </template>
    <template v-if="data">
      <BookRows :rows="data.rows" named :reload="load" />
      <button
        v-if="more"
        type="button"
        class="button more"
        :disabled="loading"
        @click="limit = Math.min(MOST, limit + PIECE)"
      >
        {{ t('bookPage.more', { n: Math.min(PIECE, left) }) }}
      </button>
    </template>
  </PageFrame>
</template>

<style scoped>
.files {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-5);
  margin-left: auto;
}
.files a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
.more {
  margin-top: var(--space-4);
}
</style>
