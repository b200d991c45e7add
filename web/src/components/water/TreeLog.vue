<script setup lang="ts">
/** What was done and seen, newest first; an entry is undone, never erased. A new note goes in at the top. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import AgainstOrder from '@/components/common/AgainstOrder.vue'
import PictureInput from '@/components/common/PictureInput.vue'
import { useFeeling } from '@/composables/useFeeling'
import { usePictures, type Entry, type Sending } from '@/composables/usePictures'
import { clockTime, longDay } from '@/logic/dates'
import { text } from '@/units'

/** keep: stores a note as an entry, its pictures first; true where it is stored. */
const props = defineProps<{
  entries: Schema['EntryOut'][]
  zone: string
  busy: boolean
  keep: (words: string, as: Entry, send: Sending) => Promise<boolean>
}>()
defineEmits<{
  undo: [entry: Schema['EntryOut']]
  correct: [entry: Schema['EntryOut']]
}>()
const { t } = useI18n()
const { feltWords } = useFeeling()
const SHORT = 12
const all = ref(false)
const words = ref('')
const { taken, add, drop, clear, entryOf, send } = usePictures()
const shown = computed(() => {
  const own = props.entries.filter((e) => e.kind !== 'void')
  return all.value ? own : own.slice(0, SHORT)
})
const more = computed(() => props.entries.filter((e) => e.kind !== 'void').length > shown.value.length)
function saidOf(e: Schema['EntryOut']): string {
  if (e.kind === 'reading') return t('feel.logged', { felt: feltWords(e), with: t(`feel.hand.${e.how}`) })
  if (e.reason) return `${t('treePage.skipped')}: ${t(`skip.${e.reason}`)}`
  return [e.seen ? t(`seen.${e.seen}`) : '', e.note].filter(Boolean).join(': ')
}
async function note() {
  const typed = words.value
  if (!typed.trim() || !(await props.keep(typed.trim(), entryOf(typed), send))) return
  clear()
  if (words.value === typed) words.value = ''
}
</script>

<template>
  <section>
    <h2 class="ruled-head">{{ t('treePage.log') }}</h2>
    <form class="note no-print" @submit.prevent="note">
      <div class="field">
        <label for="new-note">{{ t('treePage.seen') }}</label>
        <input id="new-note" v-model="words" class="plain-input" maxlength="2000" autocomplete="off" />
      </div>
      <button class="button" :disabled="busy || !words.trim()">{{ t('treePage.keepNote') }}</button>
      <PictureInput id="note-pictures" class="with" :taken="taken" :disabled="busy" @add="add" @drop="drop" />
    </form>
    <p v-if="!shown.length" class="quiet">{{ t('treePage.noLog') }}</p>
    <ol>
      <li v-for="e in shown" :key="e.id" :class="{ gone: e.voided }">
        <span class="when narrow">{{ longDay(e.local_date) }} {{ clockTime(e.happened_at, zone) }}</span>
        <span class="what">
          <strong v-if="e.volume_l">{{ text('volume', e.volume_l) }}</strong>
          <span v-else>{{ saidOf(e) }}</span>
          <span class="quiet narrow">
            {{ e.duration_min ? `${Math.round(e.duration_min)}\u00a0${t('common.min')}, ` : ''
            }}{{ e.person ?? t('treePage.someone') }}
          </span>
        </span>
        <span v-if="e.twice" class="warn">{{ t('today.twice') }}</span>
        <AgainstOrder v-if="e.against.length && !e.voided" :against="e.against" />
        <span v-if="e.voided" class="quiet">{{ t('treePage.voided') }}</span>
        <span v-else class="acts no-print">
          <button
            v-if="e.volume_l || (e.kind === 'reading' && e.how !== 'probe')"
            type="button"
            class="button plain"
            :disabled="busy"
            :aria-label="`${t('common.change')} ${longDay(e.local_date)}`"
            @click="$emit('correct', e)"
          >
            {{ t('common.change') }}
          </button>
          <button
            type="button"
            class="button plain"
            :disabled="busy"
            :aria-label="`${t('common.undo')} ${longDay(e.local_date)}`"
            @click="$emit('undo', e)"
          >
            {{ t('common.undo') }}
          </button>
        </span>
      </li>
    </ol>
    <button v-if="more" type="button" class="button plain" @click="all = true">{{ t('treePage.allLog') }}</button>
  </section>
</template>

<style scoped>
.with {
  grid-column: 1 / -1;
}
.note {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: var(--space-3);
  align-items: end;
  padding: var(--space-3) 0;
}
ol li {
  display: grid;
  grid-template-columns: 148px 1fr auto;
  gap: var(--space-3);
  align-items: center;
  min-height: 48px;
  border-bottom: 1px solid var(--hair);
}
.what {
  display: flex;
  gap: var(--space-3);
  align-items: baseline;
  flex-wrap: wrap;
}
.gone strong,
.gone .what span:first-child {
  text-decoration: line-through;
}
.acts {
  display: flex;
}
@media (max-width: 767px) {
  ol li {
    grid-template-columns: 1fr auto;
  }
  .what {
    grid-row: 2;
  }
  .acts {
    grid-row: 1 / 3;
    grid-column: 2;
  }
}
</style>
