<script setup lang="ts">
/** Whether the program answers, how old what is shown is, how much waits to be sent and what needs a person. */
import { useNow } from '@vueuse/core'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'
import { lost } from '@/api/connection'
import { clockTime, civilDay, moment } from '@/logic/dates'
import { useOutbox } from '@/offline/outbox'
import { loadNewer, newer } from '@/offline/start'
import { isClockBehind, knownMs, nowMs } from '@/offline/time'

const { t } = useI18n()
const route = useRoute()
const { waits, needs, differs, full } = useOutbox()
const isWrong = computed(() => knownMs.value > 0 && lost.value && isClockBehind())
const asOf = computed(() => {
  if (!knownMs.value) return ''
  const iso = new Date(knownMs.value).toISOString()
  return civilDay(knownMs.value) === civilDay(nowMs()) ? clockTime(iso) : moment(iso)
})
/** What is on its way for a moment only is not told. */
const SLOW_MS = 3000
const now = useNow({ interval: 1000 })
const slow = computed(() =>
  lost.value ? waits.value : waits.value.filter((row) => now.value.getTime() - row.moment.device_ms > SLOW_MS),
)
const words = computed(() => {
  const found: string[] = []
  if (lost.value) {
    found.push(t(navigator.onLine ? 'signal.noAnswer' : 'signal.none'))
    if (isWrong.value) found.push(t('signal.clock', { known: moment(new Date(knownMs.value).toISOString()) }))
    else if (asOf.value) found.push(t('signal.asOf', { at: asOf.value }))
  }
  if (slow.value.length) found.push(t(lost.value ? 'signal.waits' : 'signal.sending', slow.value.length))
  else if (lost.value) found.push(t('signal.keeps'))
  if (full.value) found.push(t('signal.full'))
  return found.join(' ')
})
const needed = computed(() => needs.value.length + differs.value.length)
</script>

<template>
  <div
    v-if="lost || slow.length || needed || full || newer"
    class="strip no-print"
    :class="{ warns: needed || full || isWrong }"
  >
    <p role="status">
      <template v-if="words">{{ words }} </template>
      <template v-if="needed">{{ t('signal.needs', needed) }} </template>
      <template v-if="newer && !lost">{{ t('signal.newer') }} </template>
    </p>
    <RouterLink v-if="(slow.length || needed) && route.name !== 'waiting'" class="button" :to="{ name: 'waiting' }">{{
      t('signal.see')
    }}</RouterLink>
    <button v-if="newer && !lost" type="button" class="button" @click="loadNewer">{{ t('signal.load') }}</button>
  </div>
</template>

<style scoped>
.strip {
  position: sticky;
  top: 0;
  z-index: 15;
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: var(--space-3);
  padding: var(--space-2) var(--space-6);
  background: var(--straw);
  color: var(--ink);
}
p {
  margin: 0;
  font-weight: 600;
}
.button {
  flex: none;
}
.warns {
  border-bottom: 4px solid var(--warning);
}
@media (max-width: 767px) {
  .strip {
    padding: var(--space-2) var(--space-4);
  }
}
</style>
