<script setup lang="ts">
/** Every dated task of one tree, from all its pages. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import StatePanel from '@/components/common/StatePanel.vue'
import TaskRow from '@/components/care/TaskRow.vue'
import { grouped, useCare } from '@/composables/useCare'
import { dayCount } from '@/composables/useDay'
import { useResource } from '@/composables/useResource'
import { useOutbox } from '@/offline/outbox'
import { overTasks } from '@/offline/overlay'

const props = defineProps<{ treeId: string; fresh?: unknown }>()
const { t } = useI18n()
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/care', { params: { query: { tree_id: props.treeId } }, signal })),
  [() => props.treeId, () => props.fresh, dayCount],
)
const { unsent } = useOutbox()
const groups = computed(() => grouped(overTasks(data.value?.tasks ?? [], unsent.value)))
const { busy, failed, said, say, undo } = useCare(load)
</script>

<template>
  <StatePanel :error="error" :loading="loading && !data" @retry="load">
    <p v-if="!groups.length" class="quiet">{{ t('care.noneTree') }}</p>
    <ul v-else-if="data">
      <TaskRow v-for="g in groups" :key="g.key" :group="g" :today="data.today" :busy="busy" one-tree @say="say" />
    </ul>
    <p v-if="said" role="status">
      {{ said.words }} <button type="button" class="button plain" @click="undo">{{ t('care.undo') }}</button>
    </p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <p class="no-print">
      <a class="file" :href="`/api/trees/${treeId}/care.ics`">{{ t('care.file') }}</a>
    </p>
  </StatePanel>
</template>

<style scoped>
.file {
  display: inline-flex;
  min-height: var(--tap);
  align-items: center;
}
</style>
