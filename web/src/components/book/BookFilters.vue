<script setup lang="ts">
/** What of the book is looked for; each filter is part of the address. */
import { refDebounced, useMediaQuery } from '@vueuse/core'
import { computed, ref, useId, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { WHAT } from '@/composables/useBook'
import { useResource } from '@/composables/useResource'
import type { BookQuery } from '@/composables/useBookQuery'

const props = defineProps<{ query: BookQuery; brief?: boolean }>()
const emit = defineEmits<{ change: [query: Partial<BookQuery>] }>()
const { t } = useI18n()
const id = useId()
const wide = useMediaQuery('(min-width: 768px)')
/** Something is looked for: what it is stays in sight. */
const set = computed(() => Object.entries(props.query).some(([name, v]) => v && !(name === 'what' && v === 'all')))
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const { data: people } = useResource((signal) => take(api.GET('/api/people', { signal })))
const words = ref(props.query.q)
const settled = refDebounced(words, 300)
watch(settled, (q) => q !== props.query.q && emit('change', { q }))
watch(
  () => props.query.q,
  (q) => (words.value = q),
)
const value = (e: Event) => (e.target as HTMLSelectElement | HTMLInputElement).value
</script>

<template>
  <details class="no-print" :open="wide || set">
    <summary v-show="!wide">{{ t('bookPage.look') }}</summary>
    <form class="filters no-print" @submit.prevent>
      <div class="field">
        <label :for="`${id}-site`">{{ t('bookPage.site') }}</label>
        <select
          :id="`${id}-site`"
          class="plain-input"
          :value="query.site"
          @change="(e) => emit('change', { site: value(e) })"
        >
          <option value="">{{ t('bookPage.allSites') }}</option>
          <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
        </select>
      </div>
      <div v-if="!brief" class="field">
        <label :for="`${id}-what`">{{ t('bookPage.what') }}</label>
        <select
          :id="`${id}-what`"
          class="plain-input"
          :value="query.what"
          @change="(e) => emit('change', { what: value(e) })"
        >
          <option v-for="(_, name) in WHAT" :key="name" :value="name">{{ t(`bookPage.of.${name}`) }}</option>
        </select>
      </div>
      <div class="field">
        <label :for="`${id}-who`">{{ t('bookPage.who') }}</label>
        <select
          :id="`${id}-who`"
          class="plain-input"
          :value="query.who"
          @change="(e) => emit('change', { who: value(e) })"
        >
          <option value="">{{ t('bookPage.anyone') }}</option>
          <option v-for="p in people ?? []" :key="p.id" :value="p.id">{{ p.name }}</option>
        </select>
      </div>
      <div class="field">
        <label :for="`${id}-first`">{{ t('bookPage.first') }}</label>
        <input
          :id="`${id}-first`"
          type="date"
          class="plain-input"
          :value="query.first"
          :max="query.last || undefined"
          @change="(e) => emit('change', { first: value(e) })"
        />
      </div>
      <div class="field">
        <label :for="`${id}-last`">{{ t('bookPage.last') }}</label>
        <input
          :id="`${id}-last`"
          type="date"
          class="plain-input"
          :value="query.last"
          :min="query.first || undefined"
          @change="(e) => emit('change', { last: value(e) })"
        />
      </div>
      <div class="field">
        <label :for="`${id}-q`">{{ t('bookPage.words') }}</label>
        <input :id="`${id}-q`" v-model="words" type="search" class="plain-input" maxlength="100" />
      </div>
      <label v-if="!brief" class="check">
        <input
          type="checkbox"
          :checked="query.undone"
          @change="(e) => emit('change', { undone: (e.target as HTMLInputElement).checked })"
        />
        {{ t('bookPage.undone') }}
      </label>
    </form>
  </details>
</template>

<style scoped>
summary {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--water);
  text-decoration: underline;
  text-underline-offset: 4px;
}
.filters {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: var(--space-3) var(--space-4);
  align-items: end;
}
.check {
  display: flex;
  gap: var(--space-2);
  align-items: center;
  min-height: var(--tap);
}
.check input {
  width: 22px;
  height: 22px;
}
@media (max-width: 767px) {
  .filters {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
