<script setup lang="ts">
/** One thing that was not sent: why, and what a person can do about it. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import SignalRow from '@/components/signal/SignalRow.vue'
import { civilDay, clockTime, fullDay, hourMinute, moment } from '@/logic/dates'
import { giveUp, setWhen, tryAgain } from '@/offline/outbox'
import { treesOf, type Row } from '@/offline/rows'
import { wordsOf } from '@/offline/words'
import { nowMs } from '@/offline/time'

const props = defineProps<{ row: Row }>()
const { t } = useI18n()
/** Its time can't be told, or is one that the program does not take. */
const asksWhen = computed(() => props.row.state === 'when' || props.row.why?.field === 'happened_at')
const sure = ref(false)
const busy = ref(false)
/** The latest that it can have been is offered: most is entered shortly before it is sent. */
const guess = Math.min(Math.max(props.row.moment.at_ms, props.row.moment.known_ms), nowMs())
const day = ref(civilDay(guess))
const time = ref(hourMinute(new Date(guess).toISOString()))
const when = computed(() => new Date(`${day.value}T${time.value || '00:00'}`).getTime())
const tree = computed(() => treesOf(props.row)[0])
async function doing(work: () => Promise<unknown>) {
  busy.value = true
  await work().finally(() => (busy.value = false))
}
/** What its clock said, with the year: that is often what was wrong. */
const said = computed(() => {
  const ms = props.row.moment.device_ms
  return `${fullDay(civilDay(ms))}, ${clockTime(new Date(ms).toISOString())}`
})
</script>

<template>
  <SignalRow>
    <p class="what">
      <RouterLink v-if="tree" :to="{ name: 'tree-water', params: { id: tree } }"
        ><strong>{{ row.tag || t('signal.tree') }}</strong></RouterLink
      >
      {{ wordsOf(row) }} <span class="quiet">{{ moment(new Date(row.moment.at_ms).toISOString()) }}</span>
    </p>
    <template v-if="asksWhen">
      <p class="warn">
        {{ row.why ? t('signal.refused', { why: row.why.detail }) : t('signal.when', { says: said }) }}
      </p>
      <div class="asked">
        <label>{{ t('signal.day') }}<input v-model="day" class="plain-input" type="date" /></label>
        <label>{{ t('signal.time') }}<input v-model="time" class="plain-input" type="time" /></label>
        <button
          type="button"
          class="button"
          :disabled="busy || !Number.isFinite(when)"
          @click="doing(() => setWhen(row, when))"
        >
          {{ t('signal.sendAs') }}
        </button>
      </div>
    </template>
    <p v-else-if="row.state === 'late'" class="warn">{{ t('signal.late') }}</p>
    <p v-else class="warn">{{ t('signal.refused', { why: row.why?.detail ?? '' }) }}</p>
    <template #ways>
      <button v-if="!asksWhen" type="button" class="button" :disabled="busy" @click="doing(() => tryAgain([row]))">
        {{ t('signal.again') }}
      </button>
      <button v-if="!sure" type="button" class="button plain" :disabled="busy" @click="sure = true">
        {{ t('signal.drop') }}
      </button>
      <button v-else type="button" class="button plain warn" :disabled="busy" @click="doing(() => giveUp(row))">
        {{ t('signal.dropSure') }}
      </button>
    </template>
  </SignalRow>
</template>

<style scoped>
p {
  margin: 0;
}
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: end;
}
label {
  display: grid;
  gap: var(--space-1);
}
label input {
  min-height: var(--tap);
}
</style>
