<script setup lang="ts">
/** One thing that was not sent: why, and what a person can do about it. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { clockTime, civilDay, moment } from '@/logic/dates'
import { giveUp, setWhen, tryAgain } from '@/offline/outbox'
import { treesOf, type Row } from '@/offline/rows'
import { wordsOf } from '@/offline/words'
import { nowMs } from '@/offline/time'

const props = defineProps<{ row: Row }>()
const { t } = useI18n()
const asksWhen = computed(() => props.row.state === 'when' || /has not happened yet/.test(props.row.why?.detail ?? ''))
const sure = ref(false)
const busy = ref(false)
/** The latest that it can have been is offered: most is entered shortly before it is sent. */
const guess = Math.min(Math.max(props.row.moment.at_ms, props.row.moment.known_ms), nowMs())
const day = ref(civilDay(guess))
const time = ref(new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' }).format(guess))
const when = computed(() => new Date(`${day.value}T${time.value || '00:00'}`).getTime())
const tree = computed(() => treesOf(props.row)[0])
async function doing(work: () => Promise<unknown>) {
  busy.value = true
  await work().finally(() => (busy.value = false))
}
const said = computed(() => new Date(props.row.moment.device_ms).toISOString())
</script>

<template>
  <li>
    <p class="what">
      <RouterLink v-if="tree" :to="{ name: 'tree-water', params: { id: tree } }"
        ><strong>{{ row.tag || t('signal.tree') }}</strong></RouterLink
      >
      {{ wordsOf(row) }} <span class="quiet">{{ moment(new Date(row.moment.at_ms).toISOString()) }}</span>
    </p>
    <template v-if="asksWhen">
      <p class="warn">{{ t('signal.when', { says: `${moment(said)} (${clockTime(said)})` }) }}</p>
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
    <div class="ways">
      <button v-if="!asksWhen" type="button" class="button" :disabled="busy" @click="doing(() => tryAgain([row]))">
        {{ t('signal.again') }}
      </button>
      <button v-if="!sure" type="button" class="button plain" :disabled="busy" @click="sure = true">
        {{ t('signal.drop') }}
      </button>
      <button v-else type="button" class="button plain warn" :disabled="busy" @click="doing(() => giveUp(row))">
        {{ t('signal.dropSure') }}
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
p {
  margin: 0;
}
.asked,
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: end;
}
label {
  display: grid;
  gap: var(--space-1);
}
</style>
