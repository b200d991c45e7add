<script setup lang="ts">
/** What boxes at valves run by themselves today and until somebody looks again, seen and stopped here; a box that is
 * silent or leaks is said. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import BoxRuns from '@/components/boxes/BoxRuns.vue'
import BoxState from '@/components/boxes/BoxState.vue'

interface OfBox {
  box: Schema['BoxOut']
  runs: Schema['BoxRunOut'][]
  left: Schema['LeftOut'][]
  /** of the days after */
  coming: Schema['BoxRunOut'][]
}
defineProps<{ boxes: OfBox[] }>()
defineEmits<{ changed: [box: Schema['BoxOut']] }>()
const { t } = useI18n()
</script>

<template>
  <section v-if="boxes.length" class="boxes" :aria-label="t('boxes.today')">
    <h3>{{ t('boxes.today') }}</h3>
    <p v-if="boxes.some(({ box, runs, coming }) => runs.length + coming.length && box.relied_on)" class="quiet">
      {{ t('boxes.noHours') }}
    </p>
    <div v-for="{ box, runs, left, coming } in boxes" :key="box.id">
      <p class="name">
        <RouterLink :to="{ name: 'site', params: { id: box.site_id }, hash: '#boxes' }">{{ box.name }}</RouterLink>,
        {{ box.site_name }}
      </p>
      <BoxState :box="box" />
      <BoxRuns :box="box" :runs="runs" :left="left" @changed="(b) => $emit('changed', b)" />
      <template v-if="coming.length">
        <p class="quiet">{{ t('boxes.coming') }}</p>
        <BoxRuns :box="box" :runs="coming" :left="[]" days @changed="(b) => $emit('changed', b)" />
      </template>
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
