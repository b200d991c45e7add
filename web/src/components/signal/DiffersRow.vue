<script setup lang="ts">
/** Water that two devices logged for one tree within the hour: both sides, and which of them it was. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import SignalRow from '@/components/signal/SignalRow.vue'
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
/** What other devices logged beside it: the program says which it takes for the same. */
const theirs = computed(() => {
  const own = mine.value
  const beside = (entry: Schema['EntryOut']) =>
    entry.twice && !entry.voided && entry.device_id !== own?.device_id && entry.local_date === own?.local_date
  return own ? data.value!.filter(beside) : []
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
  <SignalRow v-if="data && !gone">
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
    <template #ways>
      <button v-if="mine && theirs.length" type="button" class="button" :disabled="busy" @click="one">
        {{ t('signal.same') }}
      </button>
      <button type="button" class="button" :disabled="busy" @click="both">
        {{ t(theirs.length ? 'signal.both' : 'common.ok') }}
      </button>
    </template>
  </SignalRow>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
  gap: var(--space-4);
}
.sides li {
  display: grid;
  gap: var(--space-1);
  border: 1px solid var(--hair);
  padding: var(--space-3);
}
</style>
