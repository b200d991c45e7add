<script setup lang="ts">
/** The measures of a layout as they are typed; each change is drawn at once. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema, Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'

const props = defineProps<{ errors: Record<string, Wrong>; inRow: boolean }>()
const choice = defineModel<Schema['ChoiceIO']>({ required: true })
const { t } = useI18n()
const PATTERNS = ['on_ball', 'ring', 'two_rings', 'ring_arms', 'row_lines'] as const
const patterns = computed(() => PATTERNS.filter((p) => p !== 'row_lines' || props.inRow))
const BEARINGS = [0, 45, 90, 135, 180, 225, 270, 315]
/** Usual emitters and tubes: 0.5, 1, 2 gal/h. */
const FLOWS = [2, 4, 8]
const FEED_STEP = 45
function set<K extends keyof Schema['ChoiceIO']>(key: K, value: Schema['ChoiceIO'][K]) {
  choice.value = { ...choice.value, [key]: value }
}
/** A pattern just chosen begins with measures that can be laid. */
function pick(pattern: Schema['ChoiceIO']['pattern']) {
  const c = { ...choice.value, pattern }
  if (pattern === 'on_ball') c.points ||= 3
  if (pattern === 'two_rings' && !(c.inner_radius_m > 0 && c.inner_radius_m < c.radius_m))
    c.inner_radius_m = c.radius_m / 2
  if (pattern === 'ring_arms') {
    c.arms ||= 4
    c.arm_reach_m = Math.max(c.arm_reach_m, c.radius_m + 0.3)
  }
  if (pattern === 'row_lines') c.offset_m ||= 0.15
  if (pattern === 'ring' || pattern === 'ring_arms') c.points = 0
  choice.value = c
}
const rounded = computed(() => (Math.round(choice.value.feed_bearing_deg / FEED_STEP) * FEED_STEP) % 360)
const has = (...names: string[]) => names.includes(choice.value.pattern)
const whole = (event: Event) => Math.max(0, Math.round(Number((event.target as HTMLInputElement).value) || 0))
const wrong = (name: string) => {
  const found = props.errors[name]
  return typeof found === 'object' ? found.detail : found
}
</script>

<template>
  <div class="fields">
    <FormField id="d-pattern" :label="t('drip.pattern.title')" :error="wrong('pattern')">
      <select
        id="d-pattern"
        :value="choice.pattern"
        @change="pick(($event.target as HTMLSelectElement).value as never)"
      >
        <option v-for="p in patterns" :key="p" :value="p">{{ t(`drip.pattern.${p}`) }}</option>
      </select>
    </FormField>
    <QuantityInput
      v-if="!has('row_lines')"
      id="d-radius"
      dimension="small"
      :label="t(has('two_rings') ? 'drip.outerRadius' : has('on_ball') ? 'drip.circleRadius' : 'drip.radius')"
      :model-value="choice.radius_m"
      :digits="1"
      :error="errors.radius_m"
      @update:model-value="(v) => v && set('radius_m', v)"
    />
    <QuantityInput
      v-if="has('two_rings')"
      id="d-inner"
      dimension="small"
      :label="t('drip.innerRadius')"
      :model-value="choice.inner_radius_m"
      :digits="1"
      :error="errors.inner_radius_m"
      @update:model-value="(v) => v && set('inner_radius_m', v)"
    />
    <template v-if="has('row_lines')">
      <FormField id="d-lines" :label="t('drip.lines')" :error="wrong('lines')">
        <select
          id="d-lines"
          :value="choice.lines"
          @change="set('lines', Number(($event.target as HTMLSelectElement).value))"
        >
          <option :value="1">1</option>
          <option :value="2">2</option>
        </select>
      </FormField>
      <QuantityInput
        id="d-offset"
        dimension="small"
        :label="t('drip.offset')"
        :model-value="choice.offset_m"
        :digits="1"
        :error="errors.offset_m"
        @update:model-value="(v) => v && set('offset_m', v)"
      />
    </template>
    <FormField
      v-if="has('on_ball', 'two_rings', 'row_lines')"
      id="d-points"
      :label="t(has('on_ball') ? 'drip.points' : has('two_rings') ? 'drip.innerPoints' : 'drip.besideTrunk')"
      :hint="has('on_ball') ? '' : t('drip.zeroBySpacing')"
      :error="wrong('points')"
    >
      <input
        id="d-points"
        class="plain-input"
        type="number"
        min="0"
        max="60"
        :value="choice.points"
        @input="set('points', whole($event))"
      />
    </FormField>
    <QuantityInput
      v-if="!has('on_ball')"
      id="d-spacing"
      dimension="small"
      :label="t('drip.spacing')"
      :model-value="choice.spacing_m"
      :digits="1"
      :error="errors.spacing_m"
      @update:model-value="(v) => v && set('spacing_m', v)"
    />
    <template v-if="has('ring_arms')">
      <FormField id="d-arms" :label="t('drip.arms')" :error="wrong('arms')">
        <input
          id="d-arms"
          class="plain-input"
          type="number"
          min="1"
          max="24"
          :value="choice.arms"
          @input="set('arms', whole($event))"
        />
      </FormField>
      <QuantityInput
        id="d-reach"
        dimension="small"
        :label="t('drip.armReach')"
        :model-value="choice.arm_reach_m"
        :digits="1"
        :error="errors.arm_reach_m"
        @update:model-value="(v) => v && set('arm_reach_m', v)"
      />
    </template>
    <QuantityInput
      id="d-flow"
      dimension="flow"
      :label="t('drip.flow')"
      :model-value="choice.flow_l_per_h"
      :digits="2"
      :error="errors.flow_l_per_h"
      @update:model-value="(v) => v && set('flow_l_per_h', v)"
    />
    <QuantityInput
      id="d-bore"
      dimension="bore"
      :label="t('drip.bore')"
      :model-value="choice.bore_mm"
      :error="errors.bore_mm"
      @update:model-value="(v) => v && set('bore_mm', v)"
    />
    <FormField v-if="!inRow" id="d-feed" :label="t('drip.feedFrom')">
      <select
        id="d-feed"
        :value="rounded"
        @change="set('feed_bearing_deg', Number(($event.target as HTMLSelectElement).value))"
      >
        <option v-for="b in BEARINGS" :key="b" :value="b">{{ t(`drip.bearing.${b}`) }}</option>
      </select>
    </FormField>
    <div class="checks">
      <label
        ><input type="checkbox" :checked="choice.compensating" @change="set('compensating', !choice.compensating)" />{{
          t('drip.compensating')
        }}</label
      >
      <label
        ><input type="checkbox" :checked="choice.inline" @change="set('inline', !choice.inline)" />{{
          t('drip.inline')
        }}</label
      >
      <label
        ><input type="checkbox" :checked="choice.buried" @change="set('buried', !choice.buried)" />{{
          t('drip.buried')
        }}</label
      >
    </div>
    <p class="usual quiet">
      {{ t('drip.usual') }}
      <button v-for="f in FLOWS" :key="f" type="button" class="link" @click="set('flow_l_per_h', f)">
        {{ t(`drip.usualFlow.${f}`) }}
      </button>
    </p>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(164px, 1fr));
  gap: var(--space-3) var(--space-5);
  align-items: start;
}
.checks {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-6);
}
.checks label {
  display: inline-flex;
  gap: var(--space-2);
  align-items: center;
  min-height: var(--tap);
}
.checks input {
  width: 22px;
  height: 22px;
}
.usual {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-1);
  align-items: center;
}
.link {
  border: 0;
  background: none;
  color: var(--water);
  text-decoration: underline;
  min-height: var(--tap);
  padding: 0 var(--space-2);
  cursor: pointer;
}
</style>
