<script setup lang="ts">
/** What a hand feels at the tree: one tap in the ball, one beside it; each is kept at once and answered. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import FeelAnswers from '@/components/looking/FeelAnswers.vue'
import HandChoice from '@/components/looking/HandChoice.vue'
import { PLACES, type Felt, type How, type Where } from '@/composables/useFeeling'

/** keep: stores what was felt of one of both; true where it is stored. said: what that means. was: the entry that is
 * put right, one answer of it. */
const props = defineProps<{
  title: string
  busy: boolean
  said: string
  failed: string
  was?: Schema['EntryOut'] | null
  keep: (how: How, where: 'ball' | 'ring', felt: Felt) => Promise<boolean>
  /** Keeps what a probe read; where none is handed over, no probe is offered. */
  keepProbe?: (ball: number | null, ring: number | null) => Promise<boolean>
}>()
const open = defineModel<boolean>('open', { required: true })
const { t } = useI18n()
const how = ref<How>('finger')
const felt = ref<{ ball?: Felt; ring?: Felt }>({})
const places = computed(() => (props.was ? PLACES.filter((where) => props.was?.[`${where}_feel`]) : PLACES))
const on = (where: Where) => felt.value[where] ?? props.was?.[`${where}_feel`]
const told = (where: Where) => (props.was ? (felt.value.ball ?? felt.value.ring) : felt.value[where])
const probed = ref(false)
watch(
  open,
  (shown) => {
    if (!shown) return
    felt.value = {}
    probed.value = false
    how.value = props.was?.how ?? 'finger'
  },
  { immediate: true },
)
const theta = ref<Record<Where, string>>({ ball: '', ring: '' })
const number = (typed: string) => (typed.trim() ? Number(typed.trim().replace(',', '.')) : null)
const read = computed(() => PLACES.map((where) => number(theta.value[where])))
const readable = computed(
  () => read.value.some((v) => v !== null) && read.value.every((v) => v === null || (v >= 0 && v <= 1)),
)
async function tellProbe() {
  if (props.keepProbe && (await props.keepProbe(read.value[0]!, read.value[1]!))) {
    probed.value = true
    theta.value = { ball: '', ring: '' }
  }
}
async function tell(where: 'ball' | 'ring', what: Felt) {
  if (await props.keep(how.value, where, what)) felt.value = { ...felt.value, [where]: what }
}
</script>

<template>
  <el-dialog v-model="open" :title="title" width="min(520px, 96vw)" top="4vh">
    <form v-if="how === 'probe'" class="probe" @submit.prevent="tellProbe">
      <label v-for="where in PLACES" :key="where">
        {{ t(where === 'ball' ? 'feel.probeBall' : 'feel.probeRing') }}
        <input v-model="theta[where]" class="plain-input" inputmode="decimal" autocomplete="off" />
      </label>
      <p class="quiet">{{ t('feel.probeHint') }}</p>
      <button class="button main" :disabled="busy || !readable">{{ t('feel.probeKeep') }}</button>
    </form>
    <FeelAnswers
      v-else
      :places="places"
      :busy="busy"
      :on="on"
      :locked="(where) => told(where) !== undefined"
      @tell="tell"
    />
    <p class="said" role="status">{{ felt.ball || felt.ring || probed ? said : '' }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div class="foot">
      <HandChoice v-model="how" :probe="Boolean(keepProbe) && !was" />
      <button type="button" class="button main" @click="open = false">{{ t('common.close') }}</button>
    </div>
  </el-dialog>
</template>

<style scoped>
.probe {
  display: grid;
  gap: var(--space-3);
}
.probe label {
  display: grid;
  gap: var(--space-1);
}
.probe input {
  min-height: 56px;
}
.said {
  min-height: 3.6em;
  font-weight: 600;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: end;
  gap: var(--space-3);
}
.foot .button {
  min-height: 56px;
  min-width: 120px;
}
</style>
