<script setup lang="ts">
/** Prove it: run it, dig or push a rod, type how deep it is wet. What was measured replaces the estimate. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, type Schema, type Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import { useMeasures } from '@/composables/useMeasures'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{ treeId: string; proofs: Schema['ProofOut'][] }>()
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const minutes = ref<number | null>(null)
const depth = ref<number | null>(null)
const errors = ref<Record<string, Wrong>>({})
const busy = ref(false)
const { unread } = useMeasures()
let id = newId()
async function keep() {
  errors.value = {}
  if (!minutes.value) errors.value.minutes = t('form.required')
  if (!depth.value) errors.value.depth_m = t('form.required')
  if (Object.keys(errors.value).length || unread.value) return
  busy.value = true
  try {
    const body = { tree_id: props.treeId, minutes: minutes.value!, depth_m: depth.value!, note: '' }
    await persist(() => api.PUT('/api/drip-proofs/{proof_id}', { params: { path: { proof_id: id } }, body }))
    id = newId()
    minutes.value = depth.value = null
    emit('changed')
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    errors.value = Object.keys(e.fields).length ? e.fields : { depth_m: e.detail }
  } finally {
    busy.value = false
  }
}
async function back(proof: Schema['ProofOut']) {
  await persist(() => api.POST('/api/drip-proofs/{proof_id}/withdraw', { params: { path: { proof_id: proof.id } } }))
  emit('changed')
}
</script>

<template>
  <div class="proof">
    <p class="quiet">{{ t('drip.proof.how') }}</p>
    <div class="row">
      <FormField id="p-minutes" :label="t('drip.proof.minutes')" :error="errors.minutes">
        <div class="typed">
          <input id="p-minutes" v-model.number="minutes" type="number" min="1" inputmode="decimal" autocomplete="off" />
          <span class="unit">{{ t('drip.min') }}</span>
        </div>
      </FormField>
      <QuantityInput
        id="p-depth"
        v-model="depth"
        dimension="small"
        :label="t('drip.proof.depth')"
        :error="errors.depth_m"
      />
      <button type="button" class="button" :disabled="busy" @click="keep">{{ t('drip.proof.keep') }}</button>
    </div>
    <ul v-if="proofs.length">
      <li v-for="p in proofs" :key="p.id" :class="{ withdrawn: p.withdrawn }">
        {{
          t('drip.proof.was', {
            day: fullDay(p.day),
            minutes: Math.round(p.minutes),
            depth: text('small', p.depth_m, 0),
          })
        }}
        <span v-if="p.withdrawn" class="quiet">{{ t('drip.proof.withdrawn') }}</span>
        <button v-else type="button" class="button plain" @click="back(p)">{{ t('drip.proof.back') }}</button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.proof {
  display: grid;
  gap: var(--space-3);
}
.row {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: var(--space-3) var(--space-5);
  align-items: end;
}
li {
  border-bottom: 1px solid var(--hair);
  min-height: var(--tap);
  display: flex;
  align-items: center;
  gap: var(--space-2);
}
.withdrawn {
  text-decoration: line-through;
}
</style>
