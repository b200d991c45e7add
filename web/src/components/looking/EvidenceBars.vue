<script setup lang="ts">
/** What each finding by itself says for a cause and against it, in words and as a bar to the right or the left. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { weightShare, weightWords } from '@/logic/checkup'

defineProps<{ cause: Schema['CauseOut'] }>()
const { t } = useI18n()
const OWN = ['plan_says', 'first_year']
</script>

<template>
  <section class="evidence">
    <h3>{{ t('checks.evidence', { cause: t(`checks.cause.${cause.cause}`) }) }}</h3>
    <ul>
      <li v-for="e in cause.evidence" :key="e.finding">
        <span class="what"
          >{{ t(`checks.q.${e.finding}.title`) }} <strong>{{ t(`checks.a.${e.finding}.${e.value}`) }}</strong>
          <span v-if="OWN.includes(e.finding)" class="quiet own">({{ t('checks.program') }})</span></span
        >
        <span class="words">{{ t(`checks.weight.${weightWords(e.weight_db)}`) }}</span>
        <span class="track" aria-hidden="true"
          ><span
            class="bar"
            :class="e.weight_db > 0 ? 'for' : 'against'"
            :style="{ width: `${50 * weightShare(e.weight_db)}%` }"
        /></span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.evidence {
  margin-top: var(--space-5);
}
h3 {
  font-size: var(--text-2);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 180px;
  gap: 0 var(--space-3);
  align-items: center;
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
.words {
  color: var(--ink-2);
  font-size: var(--text-1);
  text-align: center;
}
.what {
  grid-row: span 2;
}
.own {
  margin-left: var(--space-1);
}
.track {
  position: relative;
  height: 12px;
}
.track::before {
  content: '';
  position: absolute;
  left: 50%;
  height: 100%;
  border-left: 2px solid var(--ink);
}
.bar {
  position: absolute;
  top: 1px;
  height: 10px;
}
.for {
  left: 50%;
  background: var(--water);
}
.against {
  right: 50%;
  background: var(--edge);
}
@media (max-width: 480px) {
  li {
    grid-template-columns: minmax(0, 1fr) 128px;
  }
}
</style>
