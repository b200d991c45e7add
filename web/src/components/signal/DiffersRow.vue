<script setup lang="ts">
/** Water that two devices logged for one tree within the hour: both sides, and which of them it was. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useLogging } from '@/composables/useLogging'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { moment } from '@/logic/dates'
import { settle } from '@/offline/outbox'
import type { Differs } from '@/offline/store'
import { text } from '@/units'

const props = defineProps<{ of: Differs }>()
const { t } = useI18n()
const { undo } = useLogging()
const { data, load } = useResource((signal) =>
  take(api.GET('/api/trees/{tree_id}/log', { params: { path: { tree_id: props.of.tree_id } }, signal })),
)
const { busy, failed, act } = useActing(load)
const mine = computed(() => data.value?.find((entry) => entry.id === props.of.id && !entry.voided))
const theirs = computed(() => {
  const own = mine.value
  if (!own) return []
  const near = (iso: string) => Math.abs(new Date(iso).getTime() - new Date(own.happened_at).getTime()) <= 3_600_000
  return data.value!.filter(
    (entry) => entry.volume_l && !entry.voided && entry.device_id !== own.device_id && near(entry.happened_at),
  )
})
const sides = computed(() => [...(mine.value ? [mine.value] : []), ...theirs.value])
const gone = ref(false)
async function one() {
  if (await act(() => undo(mine.value!), '')) await both()
}
async function both() {
  gone.value = true
  await settle(props.of)
}
</script>

<template>
  <li v-if="data && !gone">
    <p>
      <strong>{{ of.tag }}</strong> {{ t(theirs.length ? 'signal.differs' : 'signal.differsNoMore') }}
    </p>
    <ul class="sides">
      <li v-for="(entry, n) in sides" :key="entry.id">
        <strong>{{ text('volume', entry.volume_l!) }}</strong>
        <span>{{ moment(entry.happened_at) }}</span>
        <span class="quiet">{{
          n === 0 ? t('signal.fromHere', { name: entry.person ?? '' }) : (entry.person ?? t('treePage.someone'))
        }}</span>
      </li>
    </ul>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div class="ways">
      <button v-if="mine && theirs.length" type="button" class="button" :disabled="busy" @click="one">
        {{ t('signal.same') }}
      </button>
      <button type="button" class="button" :disabled="busy" @click="both">
        {{ t(theirs.length ? 'signal.both' : 'common.ok') }}
      </button>
    </div>
  </li>
</template>

<style scoped>
li {
  display: grid;
  gap: var(--space-3);
  padding: var(--space-4) 0;
  border-bottom: 1px solid var(--hair);
}
.sides {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
  gap: var(--space-4);
}
.sides li {
  border: 1px solid var(--hair);
  padding: var(--space-3);
  gap: var(--space-1);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
}
</style>
