<script setup lang="ts">
/** Asked once per device: who is watering. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useDevice } from '@/composables/useDevice'

const { t } = useI18n()
const { asking, keep, choose, dismiss } = useDevice()
const people = ref<Schema['PersonOut'][]>([])
const name = ref('')
const said = ref('')

watch(
  asking,
  async (open) => {
    if (!open) return
    said.value = ''
    people.value = await take(api.GET('/api/people')).catch(() => [])
  },
  { immediate: true },
)

async function use() {
  if (!name.value.trim()) return
  try {
    await choose(name.value.trim())
    name.value = ''
  } catch (e) {
    said.value = (e as Error).message
  }
}
</script>

<template>
  <el-dialog :model-value="asking" :title="t('person.ask')" width="min(440px, 92vw)" @close="dismiss">
    <ul class="people">
      <li v-for="p in people" :key="p.id">
        <button type="button" class="button" @click="keep(p)">{{ p.name }}</button>
      </li>
    </ul>
    <form class="field" @submit.prevent="use">
      <label for="person-name">{{ t('person.new') }}</label>
      <div class="row">
        <input id="person-name" v-model="name" class="plain-input" maxlength="80" autocomplete="name" />
        <button class="button main">{{ t('person.use') }}</button>
      </div>
      <p v-if="said" class="warn">{{ said }}</p>
    </form>
  </el-dialog>
</template>

<style scoped>
.people {
  display: grid;
  gap: var(--space-3);
  margin-bottom: var(--space-5);
}
.people .button {
  width: 100%;
  min-height: 56px;
  font-size: var(--text-3);
}
.row {
  display: flex;
  gap: var(--space-3);
}
.row .button {
  white-space: nowrap;
}
</style>
