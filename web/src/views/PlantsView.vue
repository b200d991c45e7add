<script setup lang="ts">
/** Kinds of tree: what each needs and stands, when it is in leaf; every one can be changed, own ones added. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { monthDay } from '@/logic/dates'
import PageFrame from '@/components/common/PageFrame.vue'
import { treeName } from '@/i18n'

const { t } = useI18n()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/plants', { signal })))
const find = ref('')
const shown = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/)
  return (data.value ?? []).filter((p) =>
    words.every((w) => `${treeName(p.common)} ${p.botanical}`.toLowerCase().includes(w)),
  )
})
const leaf = (p: Schema['PlantOut']) =>
  p.evergreen
    ? t('plants.evergreen')
    : p.leaf_out && p.leaf_fall
      ? `${monthDay(`2024-${p.leaf_out}`)} – ${monthDay(`2024-${p.leaf_fall}`)}`
      : ''
</script>

<template>
  <PageFrame :title="t('plants.title')" :error="error" :loading="loading && !data" @retry="load">
    <template #beside>
      <RouterLink class="button main" :to="{ name: 'plant-new' }">{{ t('plants.add') }}</RouterLink>
    </template>
    <div class="field find">
      <label for="p-find">{{ t('plants.find') }}</label>
      <input id="p-find" v-model="find" type="search" class="plain-input" autocomplete="off" />
    </div>
    <p class="quiet" role="status">
      {{ shown.length ? t('plants.count', { n: shown.length }, shown.length) : t('plants.none') }}
    </p>
    <table class="ruled">
      <thead>
        <tr>
          <th scope="col">{{ t('plants.common') }}</th>
          <th scope="col" class="wide">{{ t('plants.botanical') }}</th>
          <th scope="col">{{ t('plants.need') }}</th>
          <th scope="col">{{ t('plants.drought') }}</th>
          <th scope="col" class="wide">{{ t('plants.salt') }}</th>
          <th scope="col" class="wide">{{ t('plants.leaf') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in shown" :key="p.id">
          <td>
            <RouterLink class="name" :to="{ name: 'plant-edit', params: { id: p.id } }">{{
              treeName(p.common)
            }}</RouterLink>
          </td>
          <td class="wide quiet">{{ p.botanical }}</td>
          <td>{{ t(`need.${p.water_need}`) }}</td>
          <td>{{ t(`tolerance.${p.drought_tolerance}`) }}</td>
          <td class="wide">{{ t(`saltTolerance.${p.salt_tolerance}`) }}</td>
          <td class="wide">{{ leaf(p) }}</td>
        </tr>
      </tbody>
    </table>
  </PageFrame>
</template>

<style scoped>
.page > header .button {
  margin-left: auto;
}
.find {
  max-width: 420px;
}
.name {
  color: var(--ink);
  font-weight: 600;
  display: inline-flex;
  align-items: center;
  min-height: 32px;
}
@media (max-width: 767px) {
  .wide {
    display: none;
  }
  .name {
    min-height: var(--tap);
  }
}
</style>
