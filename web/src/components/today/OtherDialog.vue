<script setup lang="ts">
/** Anything but the planned pour: another amount, passed over with a reason, something seen. No typing is needed. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import PictureInput from '@/components/common/PictureInput.vue'
import AmountStepper from '@/components/today/AmountStepper.vue'
import { usePictures, type Entry, type Sending } from '@/composables/usePictures'
import { SEEN, SKIPS } from '@/logic/choices'

/** see: stores what was seen as an entry, its pictures first; true where it is stored. failed: why it was not. */
const props = defineProps<{
  title: string
  planned: number
  suggested?: number | null
  only?: boolean
  failed?: string
  see: (kind: NonNullable<Schema['EntryIn']['seen']>, words: string, as: Entry, send: Sending) => Promise<boolean>
}>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{
  log: [litres: number]
  skip: [reason: NonNullable<Schema['EntryIn']['reason']>]
}>()
const { t } = useI18n()
type Part = 'amount' | 'skip' | 'seen'
const part = ref<Part>('amount')
const words = ref('')
const { taken, add, drop, clear, entryOf, send } = usePictures()
const busy = ref(false)
watch(open, (now) => {
  if (!now) return
  part.value = 'amount'
  words.value = ''
  clear()
})
function done(act: () => void) {
  act()
  open.value = false
}
/** What was typed stays until it is stored. */
async function tell(kind: NonNullable<Schema['EntryIn']['seen']>) {
  busy.value = true
  if (await props.see(kind, words.value.trim(), entryOf(`${kind} ${words.value}`), send)) open.value = false
  busy.value = false
}
const parts: Part[] = ['amount', 'skip', 'seen']
</script>

<template>
  <el-dialog v-model="open" :title="title" width="min(480px, 94vw)">
    <div v-if="!props.only" class="parts" role="group" :aria-label="title">
      <button
        v-for="p in parts"
        :key="p"
        type="button"
        class="button"
        :class="{ main: part === p }"
        :aria-pressed="part === p"
        @click="part = p"
      >
        {{ t(`today.part.${p}`) }}
      </button>
    </div>
    <AmountStepper
      v-if="open && part === 'amount'"
      :key="title"
      :planned="planned"
      :start="suggested"
      @log="(l) => done(() => emit('log', l))"
    >
      {{ suggested === null || suggested === undefined ? t('today.amount') : t('today.ranSoFar') }}
    </AmountStepper>
    <div v-else-if="part === 'skip'" class="choices">
      <p class="quiet">{{ t('today.skipWhy') }}</p>
      <ActButton v-for="r in SKIPS" :key="r" class="choice" @act="done(() => emit('skip', r))">{{
        t(`skip.${r}`)
      }}</ActButton>
    </div>
    <div v-else class="choices">
      <div class="field wide">
        <label for="seen-words">{{ t('today.seenWords') }}</label>
        <input id="seen-words" v-model="words" class="plain-input" maxlength="2000" autocomplete="off" />
      </div>
      <PictureInput id="seen-pictures" class="wide" :taken="taken" :disabled="busy" @add="add" @drop="drop" />
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <p class="quiet">{{ t('today.seenWhat') }}</p>
      <ActButton v-for="s in SEEN" :key="s" class="choice" @act="tell(s)">{{ t(`seen.${s}`) }}</ActButton>
      <p class="caution">{{ t('today.seenCaution') }}</p>
    </div>
  </el-dialog>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--space-3);
  margin-bottom: var(--space-4);
}
.parts .button {
  min-height: 56px;
  padding: 0 var(--space-2);
}
.choices {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--space-3);
}
.choices > p,
.wide {
  grid-column: 1 / -1;
}
.choice {
  min-height: 56px;
  white-space: normal;
  line-height: 1.2;
  padding: var(--space-1) var(--space-3);
}
</style>
