<script setup lang="ts">
/** A stop's minutes and place. */
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import FormActs from '@/components/common/FormActs.vue'
import FormField from '@/components/common/FormField.vue'
import { useForm } from '@/composables/useForm'
import { sent } from '@/logic/numbers'

const props = defineProps<{ stop: Schema['StopSeenOut'] }>()
const emit = defineEmits<{ saved: []; cancel: [] }>()
const { t } = useI18n()
const FIELDS = ['set_up_min', 'way_min', 'latitude_deg', 'longitude_deg'] as const
const typed = Object.fromEntries(FIELDS.map((name) => [name, props.stop[name] ?? ''])) as Record<
  (typeof FIELDS)[number],
  number | ''
>
const { form, errors, refused, other, busy, save, discard } = useForm(`stop-${props.stop.id}`, typed)
const LABELS = {
  set_up_min: ['stops.setUpField', 'stops.setUpHint'],
  way_min: ['stops.wayField', 'stops.wayHint'],
  latitude_deg: ['sites.latitude', 'crews.yardHint'],
  longitude_deg: ['sites.longitude', ''],
} as const
async function submit() {
  const body = Object.fromEntries(FIELDS.map((name) => [name, sent(form[name])]))
  const done = await save([], () =>
    take(api.PUT('/api/stops/{stop_id}', { params: { path: { stop_id: props.stop.id } }, body })),
  )
  if (done) emit('saved')
}
function cancel() {
  discard()
  emit('cancel')
}
</script>

<template>
  <form class="form" novalidate @submit.prevent="submit">
    <fieldset>
      <legend class="visually-hidden">{{ stop.name }}</legend>
      <FormField
        v-for="name in FIELDS"
        :id="`${stop.id}-${name}`"
        :key="name"
        :label="t(LABELS[name][0])"
        :hint="LABELS[name][1] ? t(LABELS[name][1]) : undefined"
        :error="errors[name]"
      >
        <input
          :id="`${stop.id}-${name}`"
          v-model="form[name]"
          class="plain-input"
          inputmode="decimal"
          autocomplete="off"
        />
      </FormField>
    </fieldset>
    <FormActs :busy="busy" :refused="refused" :other="other" @cancel="cancel" />
  </form>
</template>
