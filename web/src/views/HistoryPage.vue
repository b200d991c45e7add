<script setup lang="ts">
/** Everything that was done and seen at a tree, planted to today. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import BookRows from '@/components/book/BookRows.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import TreePictures from '@/components/trees/TreePictures.vue'
import { useResource } from '@/composables/useResource'

const PIECE = 100
const props = defineProps<{ id: string }>()
const { t } = useI18n()
const undone = ref(false)
const limit = ref(PIECE)
const { data, error, loading, load } = useResource(
  (signal) =>
    take(
      api.GET('/api/book', {
        params: { query: { tree_id: props.id, undone: undone.value, limit: limit.value } },
        signal,
      }),
    ),
  [() => props.id, undone, limit],
  { live: true },
)
const MOST = 500
const left = computed(() => (data.value ? data.value.count - data.value.rows.length : 0))
const more = computed(() => left.value > 0 && limit.value < MOST)
const file = computed(() => `/api/book.csv?tree_id=${props.id}&undone=${undone.value}`)
</script>

<template>
  <StatePanel :error="error" :loading="loading && !data" @retry="load">
    <section v-if="data" class="history">
      <TreePictures :tree-id="id" occasion="tree" />
      <h2>{{ t('bookPage.history') }}</h2>
      <p class="acts">
        <span role="status">{{ t('bookPage.found', { n: data.count }, data.count) }}</span>
        <label><input v-model="undone" type="checkbox" />{{ t('bookPage.undone') }}</label>
        <a :href="file" download>{{ t('bookPage.file.csv') }}</a>
      </p>
      <p v-if="!data.count">{{ t('bookPage.historyNone') }}</p>
      <BookRows :rows="data.rows" :named="false" :reload="load" />
      <button
        v-if="more"
        type="button"
        class="button"
        :disabled="loading"
        @click="limit = Math.min(MOST, limit + PIECE)"
      >
        {{ t('bookPage.more', { n: Math.min(PIECE, left) }) }}
      </button>
    </section>
  </StatePanel>
</template>

<style scoped>
.history {
  max-width: 1144px;
}
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-6);
  align-items: center;
}
label {
  display: flex;
  gap: var(--space-2);
  align-items: center;
  min-height: var(--tap);
}
input {
  width: 22px;
  height: 22px;
}
</style>
