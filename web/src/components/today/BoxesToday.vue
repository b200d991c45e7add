<script setup lang="ts">
/** What boxes at valves run today by themselves, seen and stopped here; a box that is silent or leaks is said. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import BoxRuns from '@/components/boxes/BoxRuns.vue'
import BoxState from '@/components/boxes/BoxState.vue'
import { useResource } from '@/composables/useResource'
import { ofDay } from '@/logic/boxes'

const props = defineProps<{ day: string }>()
const { t } = useI18n()
const { data } = useResource((signal) => take(api.GET('/api/boxes', { signal })), [() => props.day])
const shown = computed(() =>
  (data.value ?? [])
    .map((box) => ({ box, runs: ofDay(box, props.day) }))
    .filter(({ box, runs }) => runs.length || box.silent_since || box.idle || box.clock_doubted),
)
function put(box: Schema['BoxOut']) {
  data.value = (data.value ?? []).map((one) => (one.id === box.id ? box : one))
}
</script>

<template>
  <section v-if="shown.length" class="boxes" :aria-label="t('boxes.today')">
    <h3>{{ t('boxes.today') }}</h3>
    <div v-for="{ box, runs } in shown" :key="box.id">
      <p class="name">
        <RouterLink :to="{ name: 'site', params: { id: box.site_id }, hash: '#boxes' }">{{ box.name }}</RouterLink>,
        {{ box.site_name }}
      </p>
      <BoxState :box="box" />
      <BoxRuns :box="box" :runs="runs" @changed="put" />
    </div>
  </section>
</template>

<style scoped>
.boxes {
  margin-top: var(--space-5);
}
.name a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
</style>
