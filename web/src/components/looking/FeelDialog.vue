<script setup lang="ts">
/** What a hand feels at the tree: one tap in the ball, one beside it; each is kept at once and answered. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'

type Felt = NonNullable<Schema['EntryIn']['ball_feel']>
type How = NonNullable<Schema['EntryIn']['how']>
/** keep: stores what was felt of one of both; true where it is stored. said: what that means. was: the entry that is
 * put right, one answer of it. */
const props = defineProps<{
  title: string
  busy: boolean
  said: string
  failed: string
  was?: Schema['EntryOut'] | null
  keep: (how: How, where: 'ball' | 'ring', felt: Felt) => Promise<boolean>
}>()
const open = defineModel<boolean>('open', { required: true })
const { t } = useI18n()
const FELT: Felt[] = ['dry', 'drying', 'moist', 'wet', 'like_clay']
const HANDS: How[] = ['finger', 'trowel', 'rod']
const how = ref<How>('finger')
const felt = ref<{ ball?: Felt; ring?: Felt }>({})
const PLACES = ['ball', 'ring'] as const
const places = computed(() => (props.was ? PLACES.filter((where) => props.was?.[`${where}_feel`]) : PLACES))
const on = (where: (typeof PLACES)[number]) => felt.value[where] ?? props.was?.[`${where}_feel`]
const told = (where: (typeof PLACES)[number]) => (props.was ? (felt.value.ball ?? felt.value.ring) : felt.value[where])
watch(
  open,
  (shown) => {
    if (!shown) return
    felt.value = {}
    how.value = props.was?.how ?? 'finger'
  },
  { immediate: true },
)
async function tell(where: 'ball' | 'ring', what: Felt) {
  if (await props.keep(how.value, where, what)) felt.value = { ...felt.value, [where]: what }
}
</script>

<template>
  <el-dialog v-model="open" :title="title" width="min(520px, 96vw)" top="4vh">
    <section v-for="where in places" :key="where" class="where">
      <h3>{{ t(`feel.where.${where}`) }}</h3>
      <p class="quiet">{{ t(`feel.place.${where}`) }}</p>
      <div class="answers" role="group" :aria-label="t(`feel.where.${where}`)">
        <ActButton
          v-for="f in FELT"
          :key="f"
          class="answer"
          :class="{ on: on(where) === f }"
          :aria-pressed="on(where) === f"
          :disabled="busy || told(where) !== undefined"
          @act="tell(where, f)"
          >{{ t(`feel.${f}`) }}</ActButton
        >
      </div>
    </section>
    <p class="said" role="status">{{ felt.ball || felt.ring ? said : '' }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div class="foot">
      <div class="field">
        <label for="feel-how">{{ t('feel.with') }}</label>
        <select id="feel-how" v-model="how">
          <option v-for="h in HANDS" :key="h" :value="h">{{ t(`feel.hand.${h}`) }}</option>
        </select>
      </div>
      <button type="button" class="button main" @click="open = false">{{ t('common.close') }}</button>
    </div>
  </el-dialog>
</template>

<style scoped>
.where {
  margin-bottom: var(--space-4);
}
h3 {
  font-size: var(--text-3);
}
.answers {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(92px, 1fr));
  gap: var(--space-2);
  margin-top: var(--space-2);
}
.answer {
  min-height: 56px;
  padding: 0 var(--space-2);
  white-space: normal;
  line-height: 1.2;
}
.answer.on {
  background: var(--ink);
  color: var(--ground);
  opacity: 1;
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
