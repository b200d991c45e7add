<script setup lang="ts">
/** What became of a tree that stands no more: how and when it ended, its record, and what may come after it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import TreeLog from '@/components/water/TreeLog.vue'
import { useActing } from '@/composables/useActing'
import { useLogging } from '@/composables/useLogging'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'

const props = defineProps<{ tree: Schema['TreeOut'] }>()
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const end = computed(() => props.tree.end!)
const { data: entries, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}/log', { params: { path: { tree_id: props.tree.id } }, signal })),
  [() => props.tree.id],
)
const { data: site } = useResource(async (signal) => {
  const sites = await take(api.GET('/api/sites', { signal }))
  return sites.find((s) => s.id === props.tree.site_id) ?? null
})
const { note, undo } = useLogging()
const { busy, said, failed, act } = useActing(load)
const back = () =>
  act(
    async () => {
      await take(api.POST('/api/tree-ends/{end_id}/withdraw', { params: { path: { end_id: end.value.id } } }))
      emit('changed')
    },
    '',
    { typed: false },
  )
const again = computed(() => ({
  name: 'planting-new',
  query: {
    site: props.tree.site_id,
    stop: props.tree.stop ?? undefined,
    tag: props.tree.tag,
    place: props.tree.place || undefined,
    plant: props.tree.plant.id,
    count: '1',
  },
}))
</script>

<template>
  <div class="end">
    <p class="what">
      <strong>{{ t(`end.was.${end.kind}`, { day: fullDay(end.day) }) }}</strong> {{ end.cause }}
    </p>
    <p class="quiet">{{ t('end.kept') }}</p>
    <p class="acts no-print">
      <RouterLink class="button main" :to="again">{{ t('end.replace') }}</RouterLink>
      <button type="button" class="button" :disabled="busy" @click="back">{{ t('end.back') }}</button>
    </p>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <TreeLog
      v-if="entries && site"
      :entries="entries"
      :zone="site.timezone"
      :busy="busy"
      :keep="(words, entry, send) => act(() => note(tree.id, words, null, entry, send), t('treePage.noted'))"
      @undo="(e) => act(() => undo(e), t('today.undone', { tag: tree.tag }))"
    />
  </div>
</template>

<style scoped>
.end {
  display: grid;
  gap: var(--space-4);
  max-width: 720px;
  padding-top: var(--space-4);
}
.what {
  font-size: var(--text-3);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
}
</style>
