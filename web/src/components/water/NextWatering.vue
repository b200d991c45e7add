<script setup lang="ts">
/** The instruction of a tree's page: amount, time, proof, when; done in one tap where it is due. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import { useFeeling } from '@/composables/useFeeling'
import { useFlags } from '@/composables/useFlags'
import { useHow } from '@/composables/useHow'
import { pourOf } from '@/composables/useRound'
import { longDay } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{ page: Schema['WaterPageOut']; busy: boolean }>()
defineEmits<{ done: []; other: []; feel: [] }>()
const { t } = useI18n()
const flagText = useFlags()
const { how, proof, time } = useHow()
const { doubt } = useFeeling()
const box = computed(() => {
  const r = props.page.reservoir
  if (!r) return ''
  const said = { has: text('volume', r.has_l, 0), holds: text('volume', r.holds_l, 0) }
  if (r.reserve_days === null) return t('treePage.reserveFar', said)
  return r.reserve_days === 0
    ? t('treePage.reserveNow', said)
    : t('treePage.reserve', { ...said, n: r.reserve_days }, r.reserve_days)
})
const next = computed(() => props.page.next)
const dueNow = computed(() => next.value?.day === props.page.today)
const pour = computed(() => (next.value ? pourOf(next.value) : null))
const amount = computed(() => (pour.value ? text('volume', pour.value.litres) : ''))
const ahead = computed(() => props.page.chart.filter((d) => d.day >= props.page.today).length)
const proposed = (of: Schema['ModeProposed']) =>
  t('treePage.modeProposed', {
    mode: t(`mode.${props.page.mode}`),
    day: longDay(of.day),
    litres: text('volume', of.within_l, 0),
  })
/** It wants water sooner than it gets it: why that is. */
const waits = computed(() => {
  const on = next.value?.due_on
  if (!on || on >= next.value!.day) return ''
  return t('page.waits', { due: longDay(on), day: longDay(next.value!.day) })
})
const ready = computed(() => {
  const on = next.value?.ready_on
  if (!on || on === next.value?.day) return ''
  return t(on <= props.page.today ? 'treePage.ready' : 'treePage.readyFrom', { day: longDay(on) })
})
</script>

<template>
  <section class="next" :aria-label="t('treePage.water')">
    <template v-if="next && pour">
      <div class="figures">
        <BigFigure class="amount" dimension="volume" :value="pour.litres" :size="72" />
        <div class="when">
          <strong>{{ dueNow ? t('treePage.dueToday') : longDay(next.day) }}</strong>
          <span v-if="next.late_days > 0" class="warn">{{ t('flag.late', next.late_days) }}</span>
          <span v-else-if="ready" class="quiet">{{ ready }}</span>
          <a href="#sum">{{ t('common.why', { amount }) }}</a>
        </div>
      </div>
      <p v-if="waits" class="waits">
        {{ waits }} <RouterLink :to="{ name: 'fortnight' }">{{ t('page.seePlan') }}</RouterLink>
      </p>
      <p v-if="page.line && page.line.run_min !== null" class="time">
        {{ t('how.line', { line: page.line.name, time: time(pour.run_min), n: page.line.trees }) }}
        <span v-if="page.line.neediest_tag && page.line.neediest_tag !== page.tree.tag" class="quiet">{{
          t('how.lineFor', { tag: page.line.neediest_tag, wants: text('volume', page.line.wants_l) })
        }}</span>
      </p>
      <p v-else class="time">{{ how(pour, { ...page.tree, method: next.method }) }}</p>
      <p class="proof">{{ proof(next.proof_depth_m) }}</p>
      <p v-if="next.ring_from_m !== null && next.ring_to_m !== null">
        {{ t('own.ring', { inner: text('large', next.ring_from_m), outer: text('large', next.ring_to_m) }) }}
      </p>
      <ul v-if="next.flags.length" class="flags">
        <li v-for="flag in next.flags" :key="flag" class="warn">{{ flagText(flag, next.advice) }}</li>
      </ul>
    </template>
    <template v-else>
      <p class="none">{{ t('treePage.noneSoon', ahead) }}</p>
      <p class="proof">{{ t('treePage.noneSoonWords') }}</p>
      <ul v-if="page.drip_flags.length" class="flags">
        <li v-for="flag in page.drip_flags" :key="flag" class="warn">{{ t(`flag.${flag}`) }}</li>
      </ul>
    </template>
    <p v-if="box" class="had">{{ box }}</p>
    <p v-if="page.mode_proposed" class="had">{{ proposed(page.mode_proposed) }}</p>
    <p v-else-if="page.mode !== 'grow'" class="had">{{ t('treePage.mode', { mode: t(`mode.${page.mode}`) }) }}</p>
    <p v-if="page.poured_today_l > 0" class="had">
      {{ t('treePage.had', { amount: text('volume', page.poured_today_l) }) }}
    </p>
    <div class="acts no-print">
      <ActButton v-if="dueNow" class="main done" :disabled="busy" @act="$emit('done')">{{
        t('today.done', { amount })
      }}</ActButton>
      <ActButton :disabled="busy" @act="$emit('other')">{{
        dueNow ? t('today.other') : t('treePage.onlyLog')
      }}</ActButton>
      <ActButton :disabled="busy" @act="$emit('feel')">{{ t('feel.it') }}</ActButton>
    </div>
    <p class="quiet doubt">{{ doubt(page) }}</p>
  </section>
</template>

<style scoped>
.next {
  padding-bottom: var(--space-2);
}
.figures {
  display: flex;
  align-items: flex-end;
  gap: var(--space-3) var(--space-7);
  flex-wrap: wrap;
}
.when {
  display: grid;
  font-size: var(--text-2);
}
.when strong {
  font-weight: 600;
  font-size: var(--text-4);
}
.when a {
  min-height: 32px;
  display: inline-flex;
  align-items: center;
  font-size: var(--text-1);
}
.time {
  font-size: var(--text-3);
  font-weight: 500;
  margin-top: var(--space-2);
}
.proof,
.had {
  font-size: var(--text-2);
  margin-top: 2px;
}
.none {
  font-size: var(--text-5);
  font-weight: 600;
}
.flags {
  display: grid;
  gap: var(--space-2);
  margin-top: var(--space-2);
}
.acts {
  display: flex;
  gap: var(--space-3);
  margin-top: var(--space-3);
}
.acts .button {
  min-height: 56px;
  font-size: var(--text-3);
}
.doubt {
  margin-top: var(--space-2);
}
.done {
  flex: 0 1 320px;
}
@media (max-width: 767px) {
  .figures .amount {
    font-size: var(--text-7) !important;
  }
  .done {
    flex: 1;
  }
}
</style>
