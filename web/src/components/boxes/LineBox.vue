<script setup lang="ts">
/** The box that runs a line, on the line's page: what it ran, will run, and how to stop it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import BoxRuns from '@/components/boxes/BoxRuns.vue'
import BoxState from '@/components/boxes/BoxState.vue'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ siteId: string; lineId: string }>()
const { t } = useI18n()
const { data } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/boxes', { params: { path: { site_id: props.siteId } }, signal })),
  [() => props.siteId],
)
const box = computed(() => data.value?.find((one) => one.outlets.some((outlet) => outlet.line_id === props.lineId)))
const runs = computed(() => box.value?.runs.filter((run) => run.line_id === props.lineId) ?? [])
const left = computed(() => box.value?.left.filter((one) => one.line_id === props.lineId) ?? [])
function put(changed: Schema['BoxOut']) {
  data.value = (data.value ?? []).map((one) => (one.id === changed.id ? changed : one))
}
</script>

<template>
  <section v-if="box" class="line-box">
    <h2 class="ruled-head spaced">{{ t('boxes.runsIt', { name: box.name }) }}</h2>
    <BoxState :box="box" />
    <BoxRuns :box="box" :runs="runs" :left="left" days on-line @changed="put" />
    <p v-if="!runs.length && !left.length" class="quiet">{{ t('boxes.noRuns') }}</p>
    <p class="no-print">
      <RouterLink :to="{ name: 'site', params: { id: siteId }, hash: '#boxes' }">{{ t('boxes.title') }}</RouterLink>
    </p>
  </section>
</template>

<style scoped>
.line-box {
  max-width: 720px;
  margin-top: var(--space-5);
}
a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
</style>
