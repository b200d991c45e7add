<script setup lang="ts">
/** What was entered here and is not sent yet, what needs a person first, and what this phone has along for no signal. */
import { computed, onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { lost } from '@/api/connection'
import ActButton from '@/components/common/ActButton.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import DiffersRow from '@/components/signal/DiffersRow.vue'
import NeedsRow from '@/components/signal/NeedsRow.vue'
import { longDay, moment } from '@/logic/dates'
import { along, hurried, lookAlong, takeAlong } from '@/offline/along'
import { flush, useOutbox } from '@/offline/outbox'
import { aheadMs } from '@/offline/time'
import { wordsOf } from '@/offline/words'

const { t } = useI18n()
const { waits, own, needs, differs, sending } = useOutbox()
const others = computed(() => waits.value.length - own.value.length)
const iso = (ms: number) => new Date(ms).toISOString()
const busy = ref(false)
async function now() {
  busy.value = true
  await flush().finally(() => (busy.value = false))
}
onMounted(() => void lookAlong())
</script>

<template>
  <PageFrame :title="t('signal.title')">
    <div class="parts">
      <section v-if="needs.length || differs.length">
        <h2>{{ t('signal.needsYou') }}</h2>
        <ul>
          <DiffersRow v-for="one in differs" :key="one.id" :of="one" />
          <NeedsRow v-for="row in needs" :key="row.id" :row="row" />
        </ul>
      </section>
      <section>
        <h2>{{ t('signal.queue') }}</h2>
        <p v-if="!own.length">{{ t('signal.nothing') }}</p>
        <template v-else>
          <p>{{ t(lost ? 'signal.goesLater' : 'signal.goesNow') }}</p>
          <ol>
            <li v-for="row in own" :key="row.id" class="waiting">
              <strong>{{ row.tag }}</strong>
              <span>{{ wordsOf(row) }}</span>
              <span class="quiet">{{ moment(iso(row.moment.at_ms)) }}</span>
            </li>
          </ol>
          <ActButton class="main" :disabled="busy || sending" @act="now">{{ t('signal.sendNow') }}</ActButton>
        </template>
        <p v-if="others" class="quiet">{{ t('signal.ofOthers', others) }}</p>
      </section>
      <section>
        <h2>{{ t('signal.along') }}</h2>
        <p v-if="along">
          {{
            t(
              'signal.alongWords',
              { at: moment(iso(along.of_ms + aheadMs())), until: longDay(along.until), n: along.trees },
              along.trees,
            )
          }}
        </p>
        <p v-else>{{ t('signal.alongNone') }}</p>
        <ActButton :disabled="hurried || lost" @act="takeAlong({ atOnce: true })">{{
          t(hurried ? 'signal.taking' : 'signal.take')
        }}</ActButton>
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
.parts {
  display: grid;
  gap: var(--space-7);
  max-width: 720px;
}
section {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
ul,
ol {
  width: 100%;
}
h2 {
  font-size: var(--text-4);
}
.waiting {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-3);
  align-items: baseline;
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
}
</style>
