<script setup lang="ts">
/** Flow by timing a bucket: what it holds, how long it took; the server does the sum. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import { useLook } from '@/composables/useLook'
import { useMeasures } from '@/composables/useMeasures'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { isUs, text } from '@/units'

const emit = defineEmits<{ flow: [litresPerHour: number] }>()
const { t } = useI18n()
const bucket = ref<number | null>(isUs.value ? 18.927 : 10)
const seconds = ref('')
const flow = ref<number | null>(null)
const { unread } = useMeasures()
const typed = computed(() => Number(seconds.value.replace(',', '.')))
const { look, errors } = useLook(
  (signal) =>
    seconds.value.trim() && bucket.value !== null && !unread.value && Number.isFinite(typed.value)
      ? take(api.GET('/api/flow', { params: { query: { litres: bucket.value, seconds: typed.value } }, signal }))
      : null,
  (found) => (flow.value = found),
  { none: () => (flow.value = null) },
)
watch([bucket, seconds, unread], () => {
  flow.value = null
  look()
})
const wrong = computed(
  () => Object.values(errors.value)[0] ?? (Number.isFinite(typed.value) ? '' : t('form.cantRead', { example: '60' })),
)
</script>

<template>
  <div class="timer full">
    <QuantityInput id="b-litres" v-model="bucket" dimension="volume" :label="t('sites.bucket')" />
    <FormField id="b-seconds" :label="t('sites.seconds')" :error="wrong">
      <div class="typed">
        <input id="b-seconds" v-model="seconds" inputmode="decimal" autocomplete="off" />
        <span class="unit">{{ t('sites.s') }}</span>
      </div>
    </FormField>
    <button v-if="flow" type="button" class="button" @click="emit('flow', flow)">
      {{ t('sites.takeFlow', { flow: text('flow', flow, 0) }) }}
    </button>
  </div>
</template>

<style scoped>
.timer {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(216px, 1fr));
  gap: var(--space-4) var(--space-6);
  align-items: end;
}
</style>
