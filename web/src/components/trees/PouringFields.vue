<script setup lang="ts">
/** How a tree is watered: the way by picture, its own measures, the line it shares, what is wanted of it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema, Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import PictureChoice from '@/components/common/PictureChoice.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { METHODS, METHOD_MEASURES, MODES, WORTHS, VALVE_METHODS } from '@/logic/choices'
import { watersOtherwise, type TreeForm } from '@/logic/treeForm'
import PourLook from './PourLook.vue'
import PourPicture from './PourPicture.vue'

const props = defineProps<{
  fields: TreeForm
  errors: Record<string, Wrong>
  unreadable: Record<string, boolean>
  lines: string[]
  site: Schema['SiteOut'] | undefined
  stored?: Schema['TreeOut'] | null
  /** Trees that are still to be planted: their basin is dug by the sheet, what is wanted of them is said later. */
  batch?: boolean
}>()
const { t } = useI18n()
const form = props.fields
const unread = props.unreadable
const methods = METHODS.map((value) => ({ value, label: t(`method.${value}`) }))
const poured = computed(() => ['hose', 'bucket', 'tank'].includes(form.method))
const otherwise = computed(() => Boolean(props.stored && watersOtherwise(props.fields, props.stored)))
const own = computed(() => METHOD_MEASURES[form.method as keyof typeof METHOD_MEASURES] ?? [])
</script>

<template>
  <fieldset>
    <legend>{{ t('form.pouring') }}</legend>
    <PictureChoice
      id="f-method"
      v-model="form.method"
      :label="t('form.method')"
      :options="methods"
      :error="errors.method"
    >
      <template #default="{ value }"><PourPicture :of="value" /></template>
    </PictureChoice>
    <FormField
      v-if="form.method === 'emitters'"
      id="f-emitters"
      :label="t('form.emitters')"
      :error="errors.emitter_count"
    >
      <input id="f-emitters" v-model.number="form.emitter_count" class="plain-input" inputmode="numeric" />
    </FormField>
    <QuantityInput
      v-for="[name, dimension, label] in own"
      :id="`f-${name}`"
      :key="name"
      v-model="form[name]"
      v-model:invalid="unread[name]"
      :of="name"
      :dimension="dimension"
      :label="t(label)"
      :error="errors[name]"
    />
    <QuantityInput
      v-if="!batch"
      id="f-basin"
      v-model="form.basin_diameter_m"
      v-model:invalid="unread.basin_diameter_m"
      of="basin_diameter_m"
      dimension="large"
      :label="t('form.basin')"
      :hint="t('form.basinHint')"
      :error="errors.basin_diameter_m"
    />
    <QuantityInput
      v-if="poured && !batch"
      id="f-rim"
      v-model="form.basin_depth_m"
      v-model:invalid="unread.basin_depth_m"
      of="basin_depth_m"
      dimension="small"
      :label="t('form.basinDepth')"
      :error="errors.basin_depth_m"
    />
    <FormField
      v-if="(VALVE_METHODS as readonly string[]).includes(form.method)"
      id="f-line"
      :label="t('form.line')"
      :hint="t('form.lineHint')"
      :error="errors.line"
    >
      <input id="f-line" v-model="form.line" class="plain-input" list="lines" maxlength="200" autocomplete="off" />
      <datalist id="lines"><option v-for="x in lines" :key="x" :value="x" /></datalist>
    </FormField>
    <FormField v-if="!batch" id="f-mode" :label="t('mode.wanted')" :error="errors.mode">
      <select id="f-mode" v-model="form.mode">
        <option value="">{{ t('mode.asSite', { mode: t(`mode.${site?.mode ?? 'grow'}`) }) }}</option>
        <option v-for="m in MODES" :key="m" :value="m">{{ t(`mode.${m}`) }}</option>
      </select>
    </FormField>
    <FormField v-if="!batch" id="f-worth" :label="t('worth.label')" :hint="t('worth.hint')" :error="errors.worth">
      <select id="f-worth" v-model="form.worth">
        <option v-for="[word, value] in WORTHS" :key="word" :value="value">{{ t(`worth.${word}`) }}</option>
      </select>
    </FormField>
    <FormField
      v-if="otherwise"
      id="f-since"
      class="wide"
      :label="t('since.ask')"
      :hint="t(`since.${form.way_since}Hint`)"
    >
      <select id="f-since" v-model="form.way_since">
        <option v-for="s in ['today', 'always'] as const" :key="s" :value="s">{{ t(`since.${s}`) }}</option>
      </select>
    </FormField>
    <PourLook v-if="!batch || !poured" :fields="fields" />
  </fieldset>
</template>
