<script setup lang="ts">
/** Whether a box answers, whether its clock and its valves are as they should be. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { moment } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{ box: Schema['BoxOut'] }>()
const { t } = useI18n()
const answers = computed(() => {
  const { silent_since: since, answered_at: at, timezone } = props.box
  if (since) return { wrong: true, words: t('boxes.silent', { since: moment(since, timezone) }) }
  return { wrong: false, words: at ? t('boxes.answers', { at: moment(at, timezone) }) : t('boxes.notAsked') }
})
const idle = computed(() => {
  const found = props.box.idle
  if (!found) return ''
  const line = props.box.outlets.find((one) => one.number === found.outlet)?.line_name
  const flow = text('flow', found.flow_l_per_h, 0)
  return line ? t('boxes.stuckOpen', { line, flow }) : t('boxes.idleLeak', { flow })
})
</script>

<template>
  <p :class="answers.wrong ? 'warn' : 'quiet'">{{ answers.words }}</p>
  <p v-if="box.said" class="warn">{{ box.said }}</p>
  <p v-if="idle" class="warn">{{ idle }}</p>
  <p v-if="box.clock_doubted" class="warn">
    {{ t('boxes.clock', { minutes: Math.abs(Math.round(box.clock_off_min)) }) }}
  </p>
</template>
