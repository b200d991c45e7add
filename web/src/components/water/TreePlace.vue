<script setup lang="ts">
/** Where the tree stands: set once by a phone beside it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, take } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import { useActing } from '@/composables/useActing'
import { useHere } from '@/composables/useHere'
import { useResource } from '@/composables/useResource'
import { fixed } from '@/logic/numbers'

const props = defineProps<{ treeId: string }>()
const { t } = useI18n()
const params = computed(() => ({ path: { tree_id: props.treeId } }))
const { data, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}', { params: params.value, signal })),
  [() => props.treeId],
)
const { here } = useHere()
const { busy, said, failed, act } = useActing(load)
const known = computed(() => (data.value?.latitude_deg ?? null) !== null)
const shown = (degrees: number | null | undefined) => fixed(degrees ?? 0, 5)

async function send() {
  const at = await here()
  return persist(() => api.PUT('/api/trees/{tree_id}/place', { params: params.value, body: at }))
}
const set = () => act(send, t('here.set'), { typed: false })
</script>

<template>
  <section v-if="data" class="place no-print">
    <p>
      <span class="quiet">{{ t('here.title') }}</span>
      {{
        known
          ? t('here.at', { latitude: shown(data.latitude_deg), longitude: shown(data.longitude_deg) })
          : t('here.unknown')
      }}
    </p>
    <ActButton :disabled="busy" @act="set">{{ t(busy ? 'here.looking' : 'here.act') }}</ActButton>
    <p class="quiet words">{{ t('here.words') }}</p>
    <p role="status" class="said">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </section>
</template>

<style scoped>
.place {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
  margin-top: var(--space-6);
}
.words {
  max-width: 480px;
}
</style>
