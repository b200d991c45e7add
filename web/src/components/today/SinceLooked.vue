<script setup lang="ts">
/** What others did since this device looked last, in a few words. */
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'
import { listed, moment } from '@/logic/dates'

const { t, te } = useI18n()
const { me } = useSession()
const looked = useLocalStorage('june-shade-looked', new Date().toISOString())
const { data } = useResource(
  (signal) => take(api.GET('/api/since', { params: { query: { moment: looked.value } }, signal })),
  [looked],
)
const nameOf = (kind: string) => {
  if (kind.startsWith('set_')) return t('looked.settings')
  return te(`bookPage.kind.${kind}`) ? t(`bookPage.kind.${kind}`) : t('looked.void')
}
/** By kind, with who did it. */
const lines = computed(() => {
  const found = new Map<string, { n: number; by: Set<string> }>()
  for (const one of data.value ?? []) {
    const name = nameOf(one.kind)
    const line = found.get(name) ?? { n: 0, by: new Set() }
    line.n += one.count
    line.by.add(one.by ?? t('treePage.someone'))
    found.set(name, line)
  }
  return [...found].map(([what, { n, by }]) => t('looked.line', { what, n, by: listed([...by]) }))
})
const seen = () => (looked.value = new Date().toISOString())
</script>

<template>
  <section v-if="me && lines.length" class="since no-print">
    <h3>{{ t('looked.title', { when: moment(looked) }) }}</h3>
    <ul>
      <li v-for="line in lines" :key="line">{{ line }}</li>
    </ul>
    <span class="acts">
      <RouterLink class="button" :to="{ name: 'book' }">{{ t('nav.book') }}</RouterLink>
      <button type="button" class="button" @click="seen">{{ t('signal.seen') }}</button>
    </span>
  </section>
</template>

<style scoped>
.since {
  margin-top: var(--space-6);
  display: grid;
  gap: var(--space-2);
}
.acts {
  display: flex;
  gap: var(--space-3);
}
</style>
