<script setup lang="ts">
/** Which tree of today's round is nearest: reckoned here, sent nowhere. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import ActButton from '@/components/common/ActButton.vue'
import { useHere } from '@/composables/useHere'
import type { Row } from '@/composables/useRound'
import { Problem } from '@/api/client'
import { byDistance } from '@/logic/nearest'
import { text } from '@/units'

const props = defineProps<{ rows: Row[] }>()
const emit = defineEmits<{ pick: [id: string] }>()
const { t } = useI18n()
const { here } = useHere()
const busy = ref(false)
const said = ref('')
const failed = ref('')

async function find() {
  busy.value = true
  said.value = failed.value = ''
  try {
    const at = await here()
    const [first] = byDistance(at, props.rows.map((row) => row.tree)) // prettier-ignore
    if (!first) {
      failed.value = t('here.noPlaces')
      return
    }
    const away = text('large', first.m, 0)
    said.value = t('here.nearest', { tag: first.one.tag, place: first.one.place, away })
    if (at.accuracy_m > first.m) said.value += ' ' + t('here.vague', { off: text('large', at.accuracy_m, 0) })
    emit('pick', first.one.id)
  } catch (e) {
    failed.value = e instanceof Problem ? e.detail : String(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="nearest no-print">
    <ActButton class="plain" :disabled="busy" @act="find">{{ t(busy ? 'here.looking' : 'here.find') }}</ActButton>
    <p role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </div>
</template>

<style scoped>
.nearest {
  padding-bottom: var(--space-3);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-2) var(--space-4);
}
</style>
