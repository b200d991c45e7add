<script setup lang="ts">
/** How much more harm than the least a plan may cost that saves water: the lead's slider. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'

const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const { may } = useSession()
const { data, load } = useResource((signal) => take(api.GET('/api/plan', { signal })))
const PERCENT = 100
const percent = ref(0)
const stored = () => data.value && (percent.value = Math.round(PERCENT * data.value.slack))
watch(data, stored, { immediate: true })
const { busy, said, failed, act } = useActing(async () => {
  await load()
  emit('changed')
})
async function keep(value: number) {
  const put = () => take(api.PUT('/api/plan/slack', { body: { slack: value / PERCENT } }))
  const words = value ? t('drought.slackSaid', { n: value }) : t('drought.slackSaidNone')
  if (!(await act(put, words, { typed: false }))) stored()
}
</script>

<template>
  <div v-if="data" class="slack no-print">
    <label id="slack-label" for="slack">{{ t('drought.slack') }}</label>
    <p class="now">
      {{ percent ? t('drought.slackIs', { n: percent }) : t('drought.slackNone') }}
    </p>
    <input
      id="slack"
      v-model.number="percent"
      type="range"
      min="0"
      :max="PERCENT * data.slack_most"
      step="1"
      :disabled="busy || !may('lead')"
      :aria-valuetext="t('drought.percent', { n: percent })"
      @change="keep(percent)"
    />
    <p class="ends quiet" aria-hidden="true">
      <span>{{ t('drought.slackFrom') }}</span><span>{{ t('drought.slackTo') }}</span>
    </p>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </div>
</template>

<style scoped>
.slack {
  max-width: 560px;
  margin: var(--space-5) 0;
}
label {
  font-weight: 600;
}
input {
  width: 100%;
  min-height: var(--tap);
  accent-color: var(--water);
}
.ends {
  display: flex;
  justify-content: space-between;
  gap: var(--space-4);
}
</style>
