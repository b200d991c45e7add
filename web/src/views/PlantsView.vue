<script setup lang="ts">
/** Kinds of tree: what each needs and stands, when it is in leaf; every one can be changed, own ones added. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import StatePanel from '@/components/common/StatePanel.vue'
import { useResource } from '@/composables/useResource'
import { monthDay } from '@/logic/dates'

const { t } = useI18n()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/plants', { signal })))
const find = ref('')
const shown = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/)
  return (data.value ?? []).filter((p) => words.every((w) => `${p.common} ${p.botanical}`.toLowerCase().includes(w)))
})
const leaf = (p: Schema['PlantOut']) =>
  p.evergreen
    ? t('plants.evergreen')
    : p.leaf_out && p.leaf_fall
      ? `${monthDay(`2024-${p.leaf_out}`)} – ${monthDay(`2024-${p.leaf_fall}`)}`
      : ''
</script>

<template>
  <div class="page">
    <header>
      <h1>{{ t('plants.title') }}</h1>
      <RouterLink class="button main" :to="{ name: 'plant-new' }">{{ t('plants.add') }}</RouterLink>
    </header>
    <StatePanel :error="error" :loading="loading && !data" @retry="load">
      <div class="field find">
        <label for="p-find">{{ t('plants.find') }}</label>
        <input id="p-find" v-model="find" type="search" class="plain-input" autocomplete="off" />
      </div>
      <p class="quiet" role="status">
        {{ shown.length ? t('plants.count', { n: shown.length }, shown.length) : t('plants.none') }}
      </p>
      <ul>
        <li v-for="p in shown" :key="p.id">
          <RouterLink class="name" :to="{ name: 'plant-edit', params: { id: p.id } }">{{ p.common }}</RouterLink>
          <span class="quiet">{{ p.botanical }}</span>
          <span
            >{{ t('plants.need') }} <strong>{{ t(`need.${p.water_need}`) }}</strong></span
          >
          <span
            >{{ t('plants.drought') }} <strong>{{ t(`tolerance.${p.drought_tolerance}`) }}</strong></span
          >
          <span
            >{{ t('plants.salt') }} <strong>{{ t(`saltTolerance.${p.salt_tolerance}`) }}</strong></span
          >
          <span>{{ leaf(p) }}</span>
        </li>
      </ul>
    </StatePanel>
  </div>
</template>

<style scoped>
.page > header .button {
  margin-left: auto;
}
.find {
  max-width: 420px;
}
ul {
  border-top: 2px solid var(--ink);
  margin-top: 8px;
}
li {
  display: grid;
  grid-template-columns: 190px 220px 1.5fr 1fr 1fr 1fr;
  gap: 2px 18px;
  align-items: baseline;
  border-bottom: 1px solid var(--hair);
  padding: 8px 0;
}
.name {
  color: var(--ink);
  font-weight: 600;
  font-size: 18px;
  min-height: 28px;
}
strong {
  font-weight: 600;
}
@media (max-width: 1100px) {
  li {
    grid-template-columns: 1fr 1fr;
  }
}
@media (max-width: 600px) {
  li {
    grid-template-columns: 1fr;
  }
  .name {
    min-height: 44px;
    display: flex;
    align-items: center;
  }
}
</style>
