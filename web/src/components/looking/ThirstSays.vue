<script setup lang="ts">
/** What a tree's readings say of its thirst, with its doubt; accepted, refused, or the delivery checked first. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import BallLines from '@/components/looking/BallLines.vue'
import { longDay } from '@/logic/dates'
import { fixed } from '@/logic/numbers'

type Answer = Schema['ThirstIn']['answer']
const props = defineProps<{ page: Schema['ChecksPage']; busy: boolean; width: number }>()
const emit = defineEmits<{ answer: [what: Answer, multiplier: number | null]; undo: [id: string] }>()
const { t } = useI18n()
const times = (m: number) => fixed(m, m < 1 ? 2 : 1)
const fit = computed(() => props.page.fit)
const m = computed(() => times(fit.value?.demand ?? 1))
const words = computed(() => {
  const f = fit.value
  if (!f || f.demand === null || f.delivery === null) return t('thirst.few')
  const n = f.occasions
  if (f.verdict === 'book_holds') return t('thirst.holds', { n })
  const ask = { m: m.value, q: Math.round(100 * f.delivery), n }
  if (f.verdict === 'ask_delivery') return t(f.demand >= 1 ? 'thirst.askDry' : 'thirst.askWet', ask)
  return t('thirst.more', {
    m: m.value,
    low: times(f.demand_low ?? f.demand),
    high: times(f.demand_high ?? f.demand),
    n,
  })
})
const learned = computed(() => {
  const f = fit.value
  if (f?.verdict === 'ask_delivery') return t('thirst.arrives', { q: Math.round(100 * (f.delivery ?? 1)) })
  return t('thirst.learned', { m: m.value })
})
const offered = computed(() => props.page.state === 'open' || props.page.state === 'ask_delivery')
</script>

<template>
  <section>
    <h2>{{ t('thirst.title') }}</h2>
    <p class="says">{{ words }}</p>
    <p v-if="page.state === 'ask_delivery'" class="lead">{{ t('thirst.checkFirst') }}</p>
    <p v-if="page.accepted">
      {{ t('thirst.accepted', { m: times(page.accepted.multiplier!), day: longDay(page.accepted.day) }) }}
      <button v-lead type="button" class="button plain" :disabled="busy" @click="emit('undo', page.accepted.id)">
        {{ t('thirst.undo') }}
      </button>
    </p>
    <p v-if="page.state === 'refused'" class="quiet">{{ t('thirst.refused') }}</p>
    <div v-if="offered" v-lead class="ways no-print">
      <template v-if="page.state === 'ask_delivery'">
        <button type="button" class="button main" :disabled="busy" @click="emit('answer', 'delivery_good', null)">
          {{ t('thirst.good') }}
        </button>
        <button type="button" class="button" :disabled="busy" @click="emit('answer', 'delivery_mended', null)">
          {{ t('thirst.mended') }}
        </button>
      </template>
      <button
        v-else
        type="button"
        class="button main"
        :disabled="busy"
        @click="emit('answer', 'accepted', Math.round(100 * fit!.demand!) / 100)"
      >
        {{ t('thirst.accept', { m }) }}
      </button>
      <button type="button" class="button plain" :disabled="busy" @click="emit('answer', 'refused', null)">
        {{ t('thirst.refuse') }}
      </button>
    </div>
    <BallLines
      v-if="page.lines.length > 1"
      :days="page.lines"
      :readings="page.readings"
      :width="width"
      :learned="learned"
    />
  </section>
</template>

<style scoped>
.says {
  font-size: var(--text-3);
  font-weight: 500;
  max-width: 46ch;
}
.lead {
  margin-top: var(--space-2);
  font-weight: 600;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin-top: var(--space-3);
}
.ways .button {
  min-height: 56px;
}
</style>
