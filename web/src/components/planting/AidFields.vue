<script setup lang="ts">
/** Soaks and aids: none by default; what is ticked is dosed for the batch. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { useDose } from '@/composables/useDose'

type Aid = Schema['DoseOut']['aid']
const AIDS: Aid[] = ['inoculant_dip', 'hydrogel_slurry', 'hydrogel_dry', 'succulent_pads', 'reservoir_box']
defineProps<{ doses: Schema['DoseOut'][] }>()
const model = defineModel<Aid[]>({ required: true })
const { t } = useI18n()
const { dose } = useDose()
function toggle(aid: Aid) {
  model.value = model.value.includes(aid) ? model.value.filter((a) => a !== aid) : [...model.value, aid]
}
</script>

<template>
  <fieldset>
    <legend>{{ t('planting.aids') }}</legend>
    <p class="quiet">{{ t('planting.aidsNote') }}</p>
    <label v-for="a in AIDS" :key="a">
      <input type="checkbox" :checked="model.includes(a)" @change="toggle(a)" />
      <span
        >{{ t(`planting.aid.${a}`)
        }}<template v-for="d in doses.filter((x) => x.aid === a)" :key="d.aid">
          <strong>: {{ dose(d) }}</strong>
          <span v-for="doubt in d.doubts" :key="doubt" class="warn"
            >{{ '\u00a0' }}{{ t(`planting.doubt.${doubt}`) }}</span
          >
        </template></span
      >
    </label>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-size: var(--text-3);
  font-weight: 600;
  border-bottom: 2px solid var(--ink);
  padding: 0 0 var(--space-1);
  width: 100%;
  margin-bottom: var(--space-2);
}
label {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  min-height: var(--tap);
  border-bottom: 1px solid var(--hair);
}
input {
  width: 22px;
  height: 22px;
  flex: none;
}
</style>
