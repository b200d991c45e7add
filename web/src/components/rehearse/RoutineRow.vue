<script setup lang="ts">
/** One routine's season: what it says, what it takes, what it costs the tree; the figures behind it can be changed. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import RoutineFields from '@/components/rehearse/RoutineFields.vue'
import { useHow } from '@/composables/useHow'
import { useRoutines } from '@/composables/useRoutines'
import { fullDay } from '@/logic/dates'
import { FIGURES } from '@/logic/routines'
import { text } from '@/units'
import { figure } from '@/logic/numbers'

const props = defineProps<{
  row: Schema['RehearsedOut']
  days: number
  shown: boolean
  inUse: string | null
  busy: boolean
}>()
const emit = defineEmits<{ show: []; use: []; change: [routine: Schema['RoutineOut']] }>()
const { t } = useI18n()
const { time } = useHow()
const { nameOf, says } = useRoutines()
const own = ref(props.row.routine)
watch(
  () => props.row.routine,
  (now) => (own.value = now),
)
const fit = computed(() => {
  const r = props.row
  return t(`rehearse.fit.${r.fit}`, {
    more: text('volume', Math.abs(r.more_l), 0),
    thirsty: r.thirsty_days,
    longest: r.longest_thirst_days,
    soggy: r.soggy_days,
    days: props.days,
    drained: text('volume', r.drained_l, 0),
    gross: text('volume', r.gross_l, 0),
  })
})
const figures = computed(() => {
  const r = props.row
  return [
    ['visits', String(r.waterings), false],
    ['water', text('volume', r.gross_l, 0), false],
    ['time', r.hours ? time(60 * r.hours) : `0\u00a0${t('common.min')}`, false],
    ...(r.cost === null ? [] : [['cost', figure(r.cost), false]]),
    ['thirsty', String(r.thirsty_days), r.reasons.includes('too_dry')],
    ['wet', String(r.soggy_days), r.reasons.includes('too_wet')],
    ['roots', text('large', r.root_radius_m), false],
  ] as [string, string, boolean][]
})
const bad = computed(() => props.row.reasons.length > 0)
</script>

<template>
  <li :class="{ shown }">
    <button type="button" class="name" :aria-pressed="shown" @click="emit('show')">
      <span class="stroke" :class="row.routine.name" aria-hidden="true" />
      <strong>{{ nameOf(row.routine) }}</strong>
      <span>{{ says(row.routine) }}</span>
    </button>
    <dl>
      <div v-for="[name, value, warns] in figures" :key="name" :class="{ bad: warns }">
        <dt>{{ t(`rehearse.figure.${name}`) }}</dt>
        <dd>{{ value }}</dd>
      </div>
    </dl>
    <p class="fit" :class="{ warn: bad }">
      {{ fit }} <span class="quiet">{{ t(`rehearse.meant.${row.routine.name}`) }}</span>
      <template v-if="row.established_on"
        ><br />{{ t('rehearse.figure.own') }}: {{ fullDay(row.established_on) }}</template
      >
    </p>
    <div v-if="shown" class="acts">
      <details v-if="FIGURES[row.routine.name].length">
        <summary>{{ t('rehearse.change') }}</summary>
        <form @submit.prevent="emit('change', own)">
          <RoutineFields v-model="own" />
          <button type="submit" class="button" :disabled="busy">{{ t('rehearse.runAgain') }}</button>
        </form>
      </details>
      <strong v-if="inUse">{{ inUse }}</strong>
      <button v-else v-lead type="button" class="button main" :disabled="busy" @click="emit('use')">
        {{ t('rehearse.use') }}
      </button>
    </div>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(220px, 1fr) minmax(0, 2.3fr);
  gap: var(--space-1) var(--space-6);
  padding: var(--space-3) 0 var(--space-3) var(--space-3);
  border-bottom: 1px solid var(--hair);
  border-left: 4px solid transparent;
}
li.shown {
  border-left-color: var(--water);
}
.name {
  display: grid;
  justify-items: start;
  align-content: start;
  text-align: left;
  background: none;
  border: 0;
  padding: 0;
  min-height: var(--tap);
  cursor: pointer;
  grid-row: span 2;
}
.name strong {
  font-size: var(--text-3);
  color: var(--water);
  text-decoration: underline;
  text-underline-offset: 4px;
}
.shown .name strong {
  color: var(--ink);
  text-decoration: none;
}
dl {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(92px, 1fr));
  gap: var(--space-1) var(--space-3);
}
dl div {
  display: grid;
}
dt {
  font-family: var(--condensed);
  color: var(--ink-2);
}
dd {
  font-size: var(--text-3);
  font-weight: 600;
}
.bad dd {
  color: var(--warning);
}
.bad dd::before {
  content: '▲ ';
  font-size: 0.6em;
  vertical-align: middle;
}
.acts {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3) var(--space-6);
  align-items: start;
  justify-content: space-between;
  padding-top: var(--space-2);
}
summary {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--water);
  text-decoration: underline;
  text-underline-offset: 4px;
}
form {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: end;
}
@media (max-width: 767px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
  .acts .main {
    width: 100%;
  }
}
</style>
