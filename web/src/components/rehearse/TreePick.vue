<script setup lang="ts">
/** Another tree, found by any words: a box to type in, the first that fit below it. */
import { refDebounced } from '@vueuse/core'
import { ref, useId } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { kindsCalled, treeName } from '@/i18n'

defineEmits<{ pick: [id: string] }>()
const { t } = useI18n()
const id = useId()
const words = ref('')
const q = refDebounced(words, 250)
const { data, loading } = useResource(
  (signal) =>
    take(api.GET('/api/trees', { params: { query: { q: q.value, called: kindsCalled(q.value), limit: 8 } }, signal })),
  [q],
)
</script>

<template>
  <div class="pick">
    <label :for="id">{{ t('rehearse.find') }}</label>
    <input :id="id" v-model="words" type="search" class="plain-input" autocomplete="off" />
    <ul v-if="data">
      <li v-for="tree in data.trees" :key="tree.id">
        <button type="button" @click="$emit('pick', tree.id)">
          <strong>{{ tree.tag }}</strong> {{ treeName(tree.common) }}
          <span class="quiet">{{ tree.place || tree.stop || tree.site_name }}</span>
        </button>
      </li>
    </ul>
    <p v-if="data && !data.trees.length && !loading" class="quiet">{{ t('rehearse.noneFound') }}</p>
  </div>
</template>

<style scoped>
.pick {
  display: grid;
  gap: var(--space-2);
  max-width: 520px;
  margin-bottom: var(--space-5);
}
li {
  border-bottom: 1px solid var(--hair);
}
button {
  width: 100%;
  min-height: var(--tap);
  text-align: left;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
}
</style>
