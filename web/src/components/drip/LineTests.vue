<script setup lang="ts">
/** What cups said of a line, and the trees at its start, middle and end that none stood under yet. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { useCatchWords } from '@/composables/useCatchWords'

const props = defineProps<{ page: Schema['LinePageOut'] }>()
const { t } = useI18n()
const { overLine } = useCatchWords()
/** With these the line's evenness is known. */
const toTest = computed(() => {
  const trees = props.page.trees
  const done = new Set(props.page.caught?.trees.map((one) => one.tree_id))
  const last = trees.length - 1
  const places = [
    ['start', 0],
    ['middle', Math.round(last / 2)],
    ['end', last],
  ] as const
  const once = places.filter(([, n], i) => n >= 0 && places.findIndex(([, other]) => other === n) === i)
  return once.map(([at, n]) => ({ at, tree: trees[n]! })).filter((one) => !done.has(one.tree.id))
})
</script>

<template>
  <p v-if="page.caught" class="figures">{{ overLine(page.caught) }}</p>
  <p v-else class="quiet no-print">{{ t('drip.catch.untested') }}</p>
  <p v-if="toTest.length" class="no-print tests">
    {{ t('drip.catch.testThese') }}
    <RouterLink
      v-for="one in toTest"
      :key="one.tree.id"
      :to="{ name: 'tree-drip', params: { id: one.tree.id }, hash: '#catch' }"
      >{{ t(`drip.catch.at.${one.at}`, { tag: one.tree.tag }) }}</RouterLink
    >
  </p>
</template>

<style scoped>
.figures {
  font-size: var(--text-2);
  margin-top: var(--space-2);
}
.tests {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-4);
  align-items: center;
}
.tests a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
@media print {
  .figures {
    display: inline;
    margin-right: 3mm;
    font-size: 10pt;
    line-height: 1.2;
  }
}
</style>
