<script setup lang="ts">
/** Water was logged at the wrong tree: one tap on the right one moves it there. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'

const props = defineProps<{ siteId: string; stop: string | null; from: { id: string; tag: string } | null }>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ move: [tree: Schema['TreeRow']] }>()
const { t } = useI18n()
const trees = ref<Schema['TreeRow'][]>([])
const failed = ref(false)
async function find(now: boolean) {
  if (!now) return
  failed.value = false
  try {
    const query = { site_id: props.siteId, stop: props.stop ?? undefined, limit: 200 }
    const found = await take(api.GET('/api/trees', { params: { query } }))
    trees.value = found.trees.filter((tree) => tree.id !== props.from?.id)
  } catch {
    failed.value = true
  }
}
watch(open, find, { immediate: true })
function move(tree: Schema['TreeRow']) {
  emit('move', tree)
  open.value = false
}
</script>

<template>
  <el-dialog v-model="open" :title="t('today.wrongWhich', { tag: from?.tag ?? '' })" width="min(480px, 94vw)">
    <p v-if="failed" class="warn">{{ t('common.offline') }}</p>
    <ul>
      <li v-for="tree in trees" :key="tree.id">
        <ActButton class="tree" @act="move(tree)"
          ><strong>{{ tree.tag }}</strong> {{ tree.place }}</ActButton
        >
      </li>
    </ul>
  </el-dialog>
</template>

<style scoped>
ul {
  display: grid;
  gap: var(--space-3);
  max-height: 60vh;
  overflow: auto;
}
.tree {
  width: 100%;
  min-height: 56px;
  white-space: normal;
  text-align: left;
  justify-content: flex-start;
  gap: var(--space-3);
}
</style>
