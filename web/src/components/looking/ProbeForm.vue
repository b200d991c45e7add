<script setup lang="ts">
/** A probe as it is entered: where it answers, and which soil it stands in. */
import { reactive, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, type Schema, type Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import { useActing } from '@/composables/useActing'
import { PLACES } from '@/composables/useFeeling'

const props = defineProps<{ treeId: string; probe: Schema['ProbeOut'] | null }>()
const emit = defineEmits<{ saved: []; cancel: [] }>()
const { t } = useI18n()
const { busy, failed, act } = useActing(async () => emit('saved'))
const id = props.probe?.id ?? newId()
const form = reactive({
  name: props.probe?.name ?? '',
  address: props.probe?.address ?? 'http://',
  store: props.probe?.store ?? ('ring' as Schema['ProbeIn']['store']),
})
const errors = ref<Record<string, Wrong>>({})
async function save() {
  errors.value = {}
  await act(async () => {
    try {
      const body = { ...form, tree_id: props.treeId, version: props.probe?.version ?? null }
      await persist(() => api.PUT('/api/probes/{probe_id}', { params: { path: { probe_id: id } }, body }))
    } catch (e) {
      if (e instanceof Problem) errors.value = e.fields
      throw e
    }
  }, t('boxes.saved'))
}
</script>

<template>
  <form class="form" @submit.prevent="save">
    <fieldset>
      <legend>{{ t(probe ? 'probes.edit' : 'probes.add') }}</legend>
      <FormField id="probe-name" :label="t('boxes.name')" :error="errors.name">
        <input id="probe-name" v-model="form.name" class="plain-input" autocomplete="off" required />
      </FormField>
      <FormField id="probe-address" :label="t('boxes.address')" :hint="t('probes.addressHint')" :error="errors.address">
        <input
          id="probe-address"
          v-model="form.address"
          class="plain-input"
          inputmode="url"
          autocomplete="off"
          autocapitalize="off"
          required
        />
      </FormField>
      <FormField id="probe-store" :label="t('probes.store')" :error="errors.store">
        <select id="probe-store" v-model="form.store" class="plain-input">
          <option v-for="place in PLACES" :key="place" :value="place">{{ t(`feel.where.${place}`) }}</option>
        </select>
      </FormField>
    </fieldset>
    <p class="caution">{{ t('probes.caution') }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div class="buttons">
      <button class="button main" :disabled="busy">{{ t('boxes.save') }}</button>
      <button type="button" class="button" @click="emit('cancel')">{{ t('boxes.cancel') }}</button>
    </div>
  </form>
</template>

<style scoped>
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  margin-top: var(--space-3);
}
</style>
