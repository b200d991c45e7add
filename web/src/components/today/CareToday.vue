<script setup lang="ts">
/** What is due today beside the water: grouped by what and where, done in one tap. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import TaskRow from '@/components/care/TaskRow.vue'
import { grouped, useCare } from '@/composables/useCare'
import { treeName } from '@/i18n'

const props = defineProps<{ sites: Schema['RoundSite'][]; day: string }>()
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const tasks = computed(() => props.sites.flatMap((s) => s.care))
const plantings = computed(() => props.sites.flatMap((s) => s.plantings))
const groups = computed(() => grouped(tasks.value))
const { busy, failed, said, say, undo } = useCare(() => emit('changed'))
</script>

<template>
  <section v-if="tasks.length || plantings.length || said" class="care">
    <h3>
      <span>{{ t('care.today') }}</span>
      <RouterLink class="no-print" :to="{ name: 'care' }">{{ t('care.calendar') }}</RouterLink>
    </h3>
    <ul>
      <li v-for="p in plantings" :key="p.id" class="plant">
        <strong>{{ t('care.plant', { n: p.left, common: treeName(p.common).toLowerCase() }, p.left) }}</strong>
        <span class="quiet">{{ p.stop }}</span>
        <RouterLink class="button" :to="{ name: 'planting', params: { id: p.id } }">{{ t('care.doIt') }}</RouterLink>
      </li>
      <TaskRow v-for="g in groups" :key="g.key" :group="g" :today="day" :busy="busy" @say="say" />
    </ul>
    <p v-if="said" role="status">
      {{ said.words }} <button type="button" class="button plain" @click="undo">{{ t('care.undo') }}</button>
    </p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </section>
</template>

<style scoped>
.care {
  margin-top: var(--space-6);
}
h3 {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  font-size: var(--text-2);
  border-bottom: 2px solid var(--ink);
}
.plant {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-3);
  align-items: center;
  min-height: 60px;
  border-bottom: 1px solid var(--hair);
}
.plant .button {
  margin-left: auto;
}
@media (max-width: 767px) {
  .plant .button {
    min-height: 56px;
    min-width: 140px;
  }
}
h3 a {
  font-weight: 500;
  font-size: var(--text-1);
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
</style>
