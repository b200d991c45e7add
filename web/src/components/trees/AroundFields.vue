<script setup lang="ts">
/** What lies round a tree: the ground outside its ring and its place in sun and wind, by picture; its mulch. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import PictureChoice from '@/components/common/PictureChoice.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { MATERIALS, MICROCLIMATES, SURROUNDS } from '@/logic/choices'
import type { TreeForm } from '@/logic/treeForm'
import PlacePicture from './PlacePicture.vue'

const props = defineProps<{
  fields: TreeForm
  errors: Record<string, Wrong>
  unreadable: Record<string, boolean>
  today: string | undefined
}>()
const { t } = useI18n()
const form = props.fields
const unread = props.unreadable
const surrounds = SURROUNDS.map((value) => ({ value, label: t(`surround.${value}`) }))
const places = MICROCLIMATES.map(([word, value]) => ({ value: String(value), label: t(`micro.${word}`) }))
const wordOf = (value: string) => MICROCLIMATES.find(([, v]) => String(v) === value)?.[0] ?? 'open'
const place = computed({
  get: () => String(form.microclimate),
  set: (value) => (form.microclimate = Number(value)),
})
</script>

<template>
  <fieldset>
    <legend>{{ t('form.around') }}</legend>
    <PictureChoice
      id="f-surround"
      v-model="form.surround"
      :label="t('form.surround')"
      :options="surrounds"
      :error="errors.surround"
    >
      <template #default="{ value }"><PlacePicture :of="value" /></template>
    </PictureChoice>
    <PictureChoice
      id="f-micro"
      v-model="place"
      :label="t('form.microclimate')"
      :options="places"
      :error="errors.microclimate"
    >
      <template #default="{ value }"><PlacePicture :of="wordOf(value)" /></template>
    </PictureChoice>
    <FormField id="f-mulch" :label="t('form.mulchMaterial')" :error="errors.mulch_material">
      <select id="f-mulch" v-model="form.mulch_material">
        <option value="">{{ t('cutaway.no_mulch') }}</option>
        <option v-for="m in MATERIALS" :key="m" :value="m">{{ t(`material.${m}`) }}</option>
      </select>
    </FormField>
    <template v-if="form.mulch_material">
      <QuantityInput
        id="f-mulch-depth"
        v-model="form.mulch_depth_m"
        v-model:invalid="unread.mulch_depth_m"
        of="mulch_depth_m"
        dimension="small"
        :label="t('form.mulchDepth')"
        :error="errors.mulch_depth_m"
      />
      <QuantityInput
        id="f-mulch-radius"
        v-model="form.mulch_outer_radius_m"
        v-model:invalid="unread.mulch_outer_radius_m"
        of="mulch_outer_radius_m"
        dimension="large"
        :label="t('form.mulchRadius')"
        :error="errors.mulch_outer_radius_m"
      />
      <FormField id="f-mulch-on" :label="t('form.mulchOn')" :error="errors.mulch_measured_on">
        <input id="f-mulch-on" v-model="form.mulch_measured_on" class="plain-input" type="date" :max="today" />
      </FormField>
    </template>
    <QuantityInput
      id="f-edging"
      v-model="form.edging_m"
      v-model:invalid="unread.edging_m"
      of="edging_m"
      dimension="small"
      :digits="0"
      :label="t('form.edging')"
      :hint="t('form.edgingHint')"
      :error="errors.edging_m"
    />
  </fieldset>
</template>
