<script setup lang="ts">
/** Trees that want water today and wait: when each gets it, and what waiting costs it. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { longDay } from '@/logic/dates'

const props = defineProps<{ sites: Schema['RoundSite'][] }>()
const { t } = useI18n()
const FIRST = 6
const whole = ref(false)
const WORST = ['may_die', 'leaves_suffer', 'slower_growth'] as const
const rank = (w: Schema['WaitsToday']) => (w.word ? WORST.indexOf(w.word) : WORST.length)
const all = computed(() =>
  props.sites
    .flatMap((site) => site.waiting.map((tree) => ({ site, tree })))
    .sort((a, b) => rank(a.tree) - rank(b.tree) || b.tree.dryness - a.tree.dryness),
)
const shown = computed(() => (whole.value ? all.value : all.value.slice(0, FIRST)))
const costly = computed(() => all.value.filter((one) => one.tree.word).length)
</script>

<template>
  <section v-if="all.length" class="waiting">
    <h3>
      <span>{{ t('today.waiting.title', { n: all.length }, all.length) }}</span>
      <RouterLink class="narrow no-print" :to="{ name: 'fortnight' }">{{ t('today.waiting.plan') }}</RouterLink>
    </h3>
    <p class="quiet">{{ costly ? t('today.waiting.costs', { n: costly }, costly) : t('today.waiting.free') }}</p>
    <ul>
      <li v-for="{ tree } in shown" :key="tree.id">
        <RouterLink :to="{ name: 'tree-water', params: { id: tree.id } }"
          ><strong>{{ tree.tag }}</strong></RouterLink
        >
        <span class="place">{{ tree.place }}</span>
        <span class="when">{{ tree.day ? longDay(tree.day) : t('today.waiting.never') }}</span>
        <span class="cost" :class="{ warn: tree.word === 'may_die', quiet: tree.word !== 'may_die' }">{{
          t('today.waiting.dry', {
            share: Math.round(100 * tree.dryness),
            word: t(tree.word ? `harm.${tree.word}` : 'harm.none'),
          })
        }}</span>
      </li>
    </ul>
    <button v-if="all.length > FIRST && !whole" type="button" class="button plain no-print" @click="whole = true">
      {{ t('today.waiting.more', { n: all.length - FIRST }) }}
    </button>
  </section>
</template>

<style scoped>
.waiting {
  margin-top: var(--space-6);
}
h3 {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: var(--space-3);
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
}
h3 a {
  font-size: var(--text-1);
  font-weight: 500;
}
p {
  padding: var(--space-2) 0;
}
li {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr) auto;
  gap: 0 var(--space-3);
  align-items: baseline;
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
  min-height: 56px;
}
.cost {
  grid-column: 2 / -1;
}
.when {
  font-weight: 600;
  white-space: nowrap;
}
.place {
  overflow-wrap: anywhere;
  line-height: 1.15;
}
</style>
