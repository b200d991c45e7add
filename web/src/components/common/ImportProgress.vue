<script setup lang="ts">
/** How far a file is that is read or stored in the background, and a way to end it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'

const props = defineProps<{ row: Schema['ImportOut'] | null; sending: boolean }>()
defineEmits<{ cancel: [] }>()
const { t } = useI18n()
const what = computed(() =>
  t(`import.now.${props.sending && !props.row ? 'sending' : (props.row?.state ?? 'sending')}`),
)
const known = computed(() => Boolean(props.row?.total) && props.row!.done < props.row!.total)
/** Each line is worked on twice over; people count lines. */
const share = computed(() => (known.value ? props.row!.done / props.row!.total : undefined))
</script>

<template>
  <div class="progress">
    <p role="status">{{ what }}</p>
    <progress max="1" :value="share" :aria-label="what" />
    <p v-if="share !== undefined" class="num">{{ `${Math.floor(share * 100)}\u00a0%` }}</p>
    <button v-if="row" type="button" class="button" @click="$emit('cancel')">{{ t('import.cancel') }}</button>
  </div>
</template>

<style scoped>
.progress {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
  width: min(100%, 560px);
}
progress {
  flex: 1 1 160px;
  height: 16px;
  accent-color: var(--water);
}
</style>
