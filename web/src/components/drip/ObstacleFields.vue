<script setup lang="ts">
/** What stands or lies beside the tree: paving, walls, fences, drain fields, turf; where it is and how far away. */
import { useI18n } from 'vue-i18n'
import type { Schema, Wrong } from '@/api/client'
import { text } from '@/units'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'

defineProps<{ errors: Record<string, Wrong> }>()
const obstacles = defineModel<Schema['ObstacleIO'][]>({ required: true })
const { t } = useI18n()
const KINDS = [
  'paving',
  'pit',
  'wall',
  'fence',
  'post',
  'root_barrier',
  'buried_line',
  'foundation',
  'drain_field',
  'turf',
] as const
/** Kinds that have a width of their own, and a usual one, in m. */
const WIDTHS: Record<string, number> = { post: 0.1, pit: 1.2, buried_line: 0.1 }
const BEARINGS = [0, 45, 90, 135, 180, 225, 270, 315]
const MOST = 12
/** Within this of a buried line only hands dig, in m. */
const HAND_DIG_M = 0.6
const METER = 1
function change(n: number, part: Partial<Schema['ObstacleIO']>) {
  obstacles.value = obstacles.value.map((o, i) => (i === n ? { ...o, ...part } : o))
}
function add() {
  obstacles.value = [...obstacles.value, { kind: 'paving', bearing_deg: 90, distance_m: METER, across_m: 0 }]
}
function kind(n: number, value: string) {
  change(n, { kind: value as Schema['ObstacleIO']['kind'], across_m: WIDTHS[value] ?? 0 })
}
const nearest = (deg: number) => (Math.round(deg / 45) * 45) % 360
const whole = (event: Event) => ((Math.round(Number((event.target as HTMLInputElement).value)) % 360) + 360) % 360
</script>

<template>
  <div class="obstacles">
    <p v-if="!obstacles.length" class="quiet">{{ t('drip.nothingBeside') }}</p>
    <div v-for="(o, n) in obstacles" :key="n" class="one">
      <FormField :id="`o-kind-${n}`" :label="t('drip.beside.kind')">
        <select :id="`o-kind-${n}`" :value="o.kind" @change="kind(n, ($event.target as HTMLSelectElement).value)">
          <option v-for="k in KINDS" :key="k" :value="k">{{ t(`drip.beside.${k}`) }}</option>
        </select>
      </FormField>
      <FormField :id="`o-way-${n}`" :label="t('drip.beside.way')">
        <select
          :id="`o-way-${n}`"
          :value="nearest(o.bearing_deg)"
          @change="change(n, { bearing_deg: Number(($event.target as HTMLSelectElement).value) })"
        >
          <option v-for="b in BEARINGS" :key="b" :value="b">{{ t(`drip.bearing.${b}`) }}</option>
        </select>
      </FormField>
      <FormField :id="`o-turn-${n}`" :label="t('drip.beside.turn')">
        <input
          :id="`o-turn-${n}`"
          class="plain-input"
          type="number"
          min="0"
          max="360"
          step="5"
          :value="Math.round(o.bearing_deg)"
          @change="change(n, { bearing_deg: whole($event) })"
        />
      </FormField>
      <QuantityInput
        :id="`o-far-${n}`"
        dimension="large"
        :label="t('drip.beside.far')"
        :model-value="o.distance_m"
        :error="errors[`obstacles.${n}.distance_m`]"
        @update:model-value="(v) => v && change(n, { distance_m: v })"
      />
      <QuantityInput
        v-if="o.kind in WIDTHS"
        :id="`o-wide-${n}`"
        dimension="small"
        :label="t('drip.beside.wide')"
        :model-value="o.across_m"
        :error="errors[`obstacles.${n}.across_m`]"
        @update:model-value="(v) => v && change(n, { across_m: v })"
      />
      <p v-if="o.kind === 'buried_line'" class="caution">
        {{ t('drip.beside.callFirst', { near: text('large', HAND_DIG_M, 1) }) }}
      </p>
      <button
        type="button"
        class="button plain"
        :aria-label="
          t('drip.beside.removeOne', {
            what: t(`drip.beside.${o.kind}`),
            way: t(`drip.bearing.${nearest(o.bearing_deg)}`),
          })
        "
        @click="obstacles = obstacles.filter((_, i) => i !== n)"
      >
        {{ t('drip.beside.remove') }}
      </button>
    </div>
    <button v-if="obstacles.length < MOST" type="button" class="button" @click="add">{{ t('drip.beside.add') }}</button>
  </div>
</template>

<style scoped>
.obstacles {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
.one {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(128px, 1fr));
  gap: var(--space-3) var(--space-4);
  align-items: end;
  width: 100%;
  border-bottom: 1px solid var(--hair);
  padding-bottom: var(--space-3);
}
.one .button {
  justify-self: start;
}
</style>
