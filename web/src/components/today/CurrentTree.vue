<script setup lang="ts">
/** The tree in front of you: which it is, how much, how long, the proof, and the button. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import ClockRow from '@/components/today/ClockRow.vue'
import { pourOf, type Row } from '@/composables/useRound'
import { useFlags } from '@/composables/useFlags'
import { useHow } from '@/composables/useHow'
import type { Clock, Phase } from '@/logic/clocks'
import { clockTime } from '@/logic/dates'
import { text } from '@/units'
import { treeName } from '@/i18n'

const props = defineProps<{
  row: Row
  after: Row | null
  /** the run that a box has for its line today */
  byItself: Schema['BoxRunOut'] | null
  wide: boolean
  busy: boolean
  ticking: { clock: Clock; phase: Phase } | null
  now: number
}>()
defineEmits<{ done: []; other: []; clock: []; feel: [] }>()
const { t } = useI18n()
const flagText = useFlags()
const { how, proof, time } = useHow()
const next = computed(() => props.row.tree.next!)
const pour = computed(() => pourOf(next.value))
const amount = computed(() => text('volume', pour.value.litres))
</script>

<template>
  <section class="current" :aria-label="row.tree.tag">
    <header>
      <h2>
        <RouterLink
          :to="{ name: 'tree-water', params: { id: row.tree.id } }"
          :aria-label="t('today.open', { tag: row.tree.tag })"
          >{{ row.tree.tag }}</RouterLink
        >
        <span>{{ [row.tree.place, row.tree.side].filter(Boolean).join(', ') }}</span>
      </h2>
      <p class="quiet">{{ treeName(row.tree.common) }}. {{ row.stop ?? row.site.name }}</p>
      <p v-if="row.tree.note_for_crew" class="note">{{ row.tree.note_for_crew }}</p>
      <p v-if="byItself" class="note">
        {{ t('boxes.leaveIt', { line: byItself.line_name, at: clockTime(byItself.starts_at, row.site.zone) }) }}
      </p>
    </header>
    <div class="body">
      <CutawayDrawing
        class="drawing"
        :section="row.tree.section"
        size="medium"
        :width="wide ? 240 : 358"
        :height="wide ? 196 : 168"
        :ground="64"
        :proof-m="next.proof_depth_m"
      />
      <div class="instruction">
        <template v-if="ticking">
          <ClockRow large :clock="ticking.clock" :phase="ticking.phase" :zone="row.site.zone" :now="now" />
          <p class="time">{{ amount }}</p>
        </template>
        <template v-else>
          <BigFigure dimension="volume" :value="pour.litres" :size="wide ? 72 : 64" />
          <p v-if="row.tree.line" class="time">
            {{ t('how.line', { line: row.tree.line.name, time: time(pour.run_min), n: row.tree.line.trees }) }}
          </p>
          <p v-else class="time">{{ how(pour, { ...row.tree, method: next.method }) }}</p>
        </template>
        <p class="proof">{{ proof(next.proof_depth_m) }}</p>
        <p v-if="next.ring_from_m !== null && next.ring_to_m !== null">
          {{ t('own.ring', { inner: text('large', next.ring_from_m), outer: text('large', next.ring_to_m) }) }}
        </p>
        <p v-if="row.fillFirst" class="fill">{{ t('today.fillFirst') }}</p>
        <p v-if="next.routine" class="quiet">
          {{ t('rehearse.byRoutine', { name: t(`rehearse.name.${next.routine}`) }) }}
        </p>
        <p v-if="next.late_days > 0" class="warn">{{ t('flag.late', next.late_days) }}</p>
      </div>
    </div>
    <div class="acts">
      <ActButton class="main done" :disabled="busy" @act="$emit('done')">{{ t('today.done', { amount }) }}</ActButton>
      <ActButton class="other" :disabled="busy" @act="$emit('other')">{{
        ticking ? t('today.stopEarly') : t('today.other')
      }}</ActButton>
    </div>
    <div v-if="!ticking" class="beside">
      <ActButton :disabled="busy" @act="$emit('clock')">{{ t('today.clock') }}</ActButton>
      <ActButton :disabled="busy" @act="$emit('feel')">{{ t('feel.it') }}</ActButton>
    </div>
    <p class="after">
      <span>{{
        after
          ? t('today.next', { tag: after.tree.tag, amount: text('volume', pourOf(after.tree.next!).litres) })
          : t('today.last')
      }}</span>
      <RouterLink :to="{ name: 'tree-water', params: { id: row.tree.id }, hash: '#sum' }">{{
        t('today.why', { amount })
      }}</RouterLink>
    </p>
    <ul v-if="next.flags.length" class="flags">
      <li v-for="flag in next.flags" :key="flag" class="warn">{{ flagText(flag, next.advice) }}</li>
    </ul>
  </section>
</template>

<style scoped>
.beside {
  display: grid;
  grid-template-columns: 1fr 132px;
  gap: var(--space-3);
  margin-top: var(--space-3);
}
.beside .button {
  min-height: 56px;
  padding: 0 var(--space-2);
}
.fill {
  font-weight: 600;
}
.note {
  margin-top: var(--space-2);
  padding: var(--space-1) var(--space-3);
  border-left: 4px solid var(--straw);
  font-weight: 600;
}
header h2 {
  font-size: var(--text-5);
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
  align-items: baseline;
}
header h2 a {
  color: inherit;
  text-decoration-thickness: 1px;
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
header h2 span {
  font-weight: 500;
  font-size: var(--text-3);
}
.body {
  display: grid;
  grid-template-columns: 240px 1fr;
  gap: var(--space-6);
  align-items: end;
  margin: var(--space-5) 0;
}
.time {
  font-size: var(--text-5);
  font-weight: 500;
  margin-top: var(--space-3);
  line-height: 1.15;
}
.proof {
  font-size: var(--text-3);
  margin-top: var(--space-2);
}
.acts {
  display: grid;
  grid-template-columns: 1fr 132px;
  gap: var(--space-3);
}
.acts .button {
  min-height: 64px;
  font-size: var(--text-4);
}
.after {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-3);
  margin-top: var(--space-2);
  min-height: var(--tap);
}
.after a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
.flags {
  display: grid;
  gap: var(--space-2);
  margin-top: var(--space-2);
  max-width: 60ch;
}
@media (max-width: 767px) {
  .body {
    grid-template-columns: 1fr;
    gap: var(--space-3);
    margin: var(--space-1) calc(-1 * var(--space-4)) var(--space-3);
  }
  .drawing {
    width: 100%;
    height: auto;
  }
  .instruction {
    padding: 0 var(--space-4);
  }
  .time {
    font-size: var(--text-3);
    margin-top: var(--space-1);
  }
  .proof {
    font-size: var(--text-2);
    margin-top: 2px;
  }
}
</style>
