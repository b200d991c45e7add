<script setup lang="ts">
/** What a hand feels, in the ball and beside it: one tap each. */
import { useI18n } from 'vue-i18n'
import { FELT, type Felt, type Where } from '@/composables/useFeeling'
import ActButton from '@/components/common/ActButton.vue'

/** on: the answer that stands; locked: no other is taken. */
defineProps<{
  places: readonly Where[]
  busy: boolean
  on: (where: Where) => Felt | null | undefined
  locked: (where: Where) => boolean
}>()
defineEmits<{ tell: [where: Where, felt: Felt] }>()
const { t } = useI18n()
</script>

<template>
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
        :disabled="busy || locked(where)"
        @act="$emit('tell', where, f)"
        >{{ t(`feel.${f}`) }}</ActButton
      >
    </div>
  </section>
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
</style>
