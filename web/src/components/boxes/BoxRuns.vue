<script setup lang="ts">
/** What a box runs, will run and ran: each with its line, hours, litres and what the meter says; stopped at a tap. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import { useActing } from '@/composables/useActing'
import { canStop, inOrder, isWrong } from '@/logic/boxes'
import { clockTime, longDay, moment } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{
  box: Schema['BoxOut']
  runs: Schema['BoxRunOut'][]
  left: Schema['LeftOut'][]
  /** days are told with the hours */
  days?: boolean
  /** it stands on the line's own page */
  onLine?: boolean
}>()
const emit = defineEmits<{ changed: [box: Schema['BoxOut']] }>()
const { t } = useI18n()
const { busy, said, failed, act } = useActing(async () => undefined)
const rows = computed(() => inOrder(props.runs))
const at = (iso: string) => (props.days ? moment(iso, props.box.timezone) : clockTime(iso, props.box.timezone))
const litres = (value: number) => text('volume', value, 0)
function words(run: Schema['BoxRunOut']): string {
  const named = {
    line: run.line_name,
    from: at(run.starts_at),
    to: clockTime(run.ends_at, props.box.timezone),
    expected: litres(run.expected_l),
    litres: litres(run.litres ?? 0),
  }
  return t(`boxes.run.${run.state}`, named)
}
function says(run: Schema['BoxRunOut']): string {
  if (run.believed === false) return t('boxes.notBelieved')
  if (!run.verdict || run.verdict === 'fine') return ''
  return t(`boxes.verdict.${run.verdict}`, { flow: text('flow', Math.abs(run.off_l_per_h ?? 0), 0) })
}
const stopWords = (run: Schema['BoxRunOut']) => t(run.state === 'running' ? 'boxes.stop' : 'boxes.dont')
const stop = (run: Schema['BoxRunOut']) =>
  act(
    async () =>
      emit(
        'changed',
        await take(
          api.POST('/api/boxes/{box_id}/stop', {
            params: { path: { box_id: props.box.id } },
            body: { run_id: run.id },
          }),
        ),
      ),
    t('boxes.stopped', { line: run.line_name }),
  )
</script>

<template>
  <div>
    <ul>
      <li v-for="run in rows" :key="run.id" :class="run.state">
        <div>
          <p class="what">{{ words(run) }}</p>
          <p v-if="run.goes > 1 && canStop(run)" class="quiet">
            {{ t('boxes.goes', { n: run.goes, open: Math.round(run.open_min), rest: Math.round(run.rest_min) }) }}
          </p>
          <p v-if="says(run)" :class="{ warn: isWrong(run) }">
            {{ says(run) }}
            <RouterLink v-if="!onLine" :to="{ name: 'line', params: { id: run.line_id } }">{{
              t('drip.seeLine')
            }}</RouterLink>
          </p>
        </div>
        <ActButton
          v-if="canStop(run)"
          class="no-print"
          :class="{ main: run.state === 'running' }"
          :disabled="busy"
          :aria-label="`${stopWords(run)}: ${run.line_name}, ${at(run.starts_at)}`"
          @act="stop(run)"
          >{{ stopWords(run) }}</ActButton
        >
      </li>
      <li v-for="one in left" :key="`${one.line_id} ${one.day}`" class="left">
        <p class="warn">{{ t(`boxes.left.${one.why}`, { line: one.line_name, day: longDay(one.day) }) }}</p>
      </li>
    </ul>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </div>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-1) var(--space-4);
  border-bottom: 1px solid var(--hair);
  padding: var(--space-2) 0;
  min-height: 52px;
}
li > div {
  flex: 1 1 220px;
}
.running .what {
  font-weight: 600;
  font-size: var(--text-3);
}
.stopped .what,
.missed .what {
  color: var(--ink-2);
}
</style>
