<script setup lang="ts">
/** Beside the drawing while it is changed by hand: back and forth, add, take out, a step's size, the place in figures. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import type { useEdits } from '@/composables/useEdits'
import { placeToward, toward } from '@/drawing/plan'
import type { Handle } from '@/logic/handles'
import { text } from '@/units'

const props = defineProps<{ by: ReturnType<typeof useEdits>; handleSays: (handle: Handle) => string }>()
const { t } = useI18n()
const { editing, adding, chosen, grip, gripped, size, steps, past, ahead, wrong } = props.by
const away = ref<number | null>(null)
const bearing = ref(0)
watch(
  [chosen, gripped],
  ([one, measure]) => {
    if (measure) {
      away.value = measure.away
      bearing.value = Math.round(measure.bearing ?? 0)
    }
    if (!one) return
    const place = toward(one.x_m, one.y_m)
    away.value = place.away
    bearing.value = Math.round(place.bearing)
  },
  { immediate: true },
)
function put(far: number | null, turn: number) {
  away.value = far
  bearing.value = turn
  if (grip.value) return props.by.set(grip.value, far ?? 0, turn)
  if (chosen.value && far) props.by.move(chosen.value.number, ...placeToward(far, turn))
}
const whole = (event: Event) => ((Math.round(Number((event.target as HTMLInputElement).value)) % 360) + 360) % 360
const addHere = () => away.value && props.by.add(...placeToward(away.value, bearing.value))
const inHand = computed(() => {
  if (adding.value) return t('drip.edit.tap')
  if (grip.value) return `${props.handleSays(grip.value)}. ${t('drip.edit.grip')}`
  return chosen.value
    ? `${t('drip.edit.emitter', { n: chosen.value.number })} ${t('drip.edit.how')}`
    : t('drip.edit.none')
})
</script>

<template>
  <div class="bar no-print">
    <button v-if="!editing" type="button" class="button" @click="editing = true">{{ t('drip.edit.begin') }}</button>
    <template v-else>
      <div class="buttons" role="toolbar" :aria-label="t('drip.edit.title')">
        <button type="button" class="button" :disabled="!past.length" @click="by.undo">
          {{ t('drip.edit.undo') }}
        </button>
        <button type="button" class="button" :disabled="!ahead.length" @click="by.redo">
          {{ t('drip.edit.redo') }}
        </button>
        <button type="button" class="button" :aria-pressed="adding" @click="adding = !adding">
          {{ t('drip.edit.add') }}
        </button>
        <button type="button" class="button" :disabled="!chosen" @click="chosen && by.remove(chosen.number)">
          {{ t('drip.edit.remove') }}
        </button>
        <button type="button" class="button main" @click="by.stop">{{ t('drip.edit.done') }}</button>
      </div>
      <p v-if="wrong" class="warn" role="alert">{{ wrong }}</p>
      <p class="quiet" aria-live="polite">{{ inHand }}</p>
      <div class="fields">
        <QuantityInput
          v-if="grip?.part !== 'feed'"
          id="e-away"
          dimension="small"
          :label="t('drip.edit.away')"
          :digits="1"
          :model-value="away"
          @update:model-value="(v) => put(v, bearing)"
        />
        <FormField v-if="!grip || gripped?.bearing !== null" id="e-toward" :label="t('drip.edit.toward')">
          <input
            id="e-toward"
            class="plain-input"
            type="number"
            min="0"
            max="360"
            step="5"
            :value="bearing"
            @change="put(away, whole($event))"
          />
        </FormField>
        <QuantityInput
          v-if="chosen"
          id="e-flow"
          dimension="flow"
          :label="t('drip.edit.flow')"
          :digits="2"
          :model-value="chosen.sold_as_l_per_h"
          @update:model-value="(v) => v && by.setFlow(chosen!.number, v)"
        />
        <FormField id="e-step" :label="t('drip.edit.step')">
          <select id="e-step" v-model="size">
            <option v-for="(s, n) in steps" :key="n" :value="n">{{ text('small', s) }}</option>
          </select>
        </FormField>
      </div>
      <button v-if="!chosen && !grip && away" type="button" class="button" @click="addHere">
        {{ t('drip.edit.addHere') }}
      </button>
    </template>
  </div>
</template>

<style scoped>
.bar {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
  padding-top: var(--space-3);
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
}
.button[aria-pressed='true'] {
  border-color: var(--water);
  outline: 2px solid var(--water);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: var(--space-3) var(--space-4);
  align-items: start;
  width: 100%;
}
</style>
