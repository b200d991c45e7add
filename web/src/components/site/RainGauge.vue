<script setup lang="ts">
/** The site's own rain gauge beside its station, two weeks; a reading is typed where it was taken. */
import { reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { longDay } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{ siteId: string }>()
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const path = { site_id: props.siteId }
const { data, load } = useResource((signal) =>
  take(api.GET('/api/sites/{site_id}/gauge', { params: { path }, signal })),
)
const typed = reactive<Record<string, number | null>>({})
const unreadable = reactive<Record<string, boolean>>({})
const all = ref(false)
watch(data, (rows) => rows?.forEach((r) => (typed[r.day] = r.gauge_mm)))
const { busy, said, failed, act } = useActing(async () => {
  await load()
  emit('changed')
})
function save() {
  const readings = (data.value ?? [])
    .filter((r) => typed[r.day] !== r.gauge_mm)
    .map((r) => ({ day: r.day, rain_mm: typed[r.day] ?? null }))
  if (!readings.length || Object.values(unreadable).some(Boolean)) return
  void act(
    () => take(api.PUT('/api/sites/{site_id}/gauge', { params: { path }, body: { readings } })),
    t('sites.gaugeSaved'),
  )
}
</script>

<template>
  <section id="gauge">
    <h2 class="ruled-head apart">{{ t('sites.gauge') }}</h2>
    <p class="quiet">{{ t('sites.gaugeWords') }}</p>
    <form novalidate @submit.prevent="save">
      <div v-for="r in (data ?? []).slice(0, all ? 14 : 4)" :key="r.day" class="day">
        <QuantityInput
          :id="`g-${r.day}`"
          v-model="typed[r.day]!"
          v-model:invalid="unreadable[r.day]"
          dimension="rain"
          :label="longDay(r.day)"
        />
        <span class="quiet">{{
          r.station_mm === null ? '' : `${t('sites.theirs')} ${text('rain', r.station_mm)}`
        }}</span>
      </div>
      <div class="acts">
        <button class="button main" :disabled="busy">{{ t('sites.gaugeSave') }}</button>
        <button v-if="!all" type="button" class="button plain" @click="all = true">{{ t('trees.more') }}</button>
      </div>
    </form>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </section>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: var(--space-4) var(--space-6);
  margin-top: var(--space-3);
  align-items: start;
}
.day {
  display: grid;
  gap: 2px;
}
.acts {
  grid-column: 1 / -1;
  display: flex;
  gap: var(--space-3);
}
</style>
