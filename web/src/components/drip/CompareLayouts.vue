<script setup lang="ts">
/** Layouts of a tree side by side, each watered for two years and moved as the tree grows; one tap tries one. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, Problem, take, type Schema } from '@/api/client'
import PlanThumb from '@/components/drip/PlanThumb.vue'
import ReachLine from '@/components/drip/ReachLine.vue'
import { useHow } from '@/composables/useHow'
import { longDay } from '@/logic/dates'
import { missed } from '@/logic/drip'
import { text } from '@/units'

type Layout = Schema['ComparedOut']
const props = defineProps<{
  treeId: string
  choice: Schema['ChoiceIO']
  obstacles: Schema['ObstacleIO'][]
  typed: boolean
}>()
defineEmits<{ try: [choice: Schema['ChoiceOut']] }>()
const { t } = useI18n()
const { time } = useHow()
const found = ref<Schema['SideBySideOut'] | null>(null)
const busy = ref(false)
const failed = ref('')
watch(
  () => [props.treeId, props.choice, props.obstacles],
  () => (found.value = null), // it was of other measures
)
async function compare() {
  busy.value = true
  failed.value = ''
  try {
    found.value = await take(
      api.POST('/api/trees/{tree_id}/drip/compare', {
        params: { path: { tree_id: props.treeId } },
        body: { choice: props.typed ? props.choice : null, obstacles: props.obstacles },
      }),
    )
  } catch (e) {
    failed.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
  } finally {
    busy.value = false
  }
}
const layouts = computed(() => [...(found.value?.layouts ?? [])].sort((a, b) => Number(b.best) - Number(a.best)))
const name = (one: Layout) =>
  one.which === 'pattern'
    ? t(`drip.pattern.${one.choice.pattern}`)
    : t(`drip.compare.${one.which}`, { pattern: t(`drip.pattern.${one.choice.pattern}`) })
const tube = (parts: Schema['DripPart'][]) => parts.reduce((sum, p) => sum + p.length_m, 0)
const count = (parts: Schema['DripPart'][], ...items: string[]) =>
  parts.filter((p) => items.includes(p.item)).reduce((sum, p) => sum + p.count, 0)
const takes = (one: Layout) =>
  t('drip.compare.parts', {
    emitters: one.emitters.length,
    tube: text('large', tube(one.parts), 1),
    fittings: count(one.parts, 'tee', 'coupler', 'closure', 'plug'),
  })
const later = (one: Layout) =>
  one.over.moves
    ? t(
        'drip.compare.moves',
        {
          n: one.over.moves,
          emitters: count(one.later_parts, 'emitter'),
          tube: text('large', tube(one.later_parts), 1),
        },
        one.over.moves,
      )
    : t('drip.compare.stays')
const misses = (one: Layout) =>
  missed(one.achievements)
    .map((key) => t(`drip.miss.${key}`))
    .join(', ')
</script>

<template>
  <div class="compare">
    <button v-if="!found" type="button" class="button" :disabled="busy" @click="compare">
      {{ t(busy ? 'drip.compare.busy' : 'drip.compare.ask') }}
    </button>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <template v-if="found">
      <p class="quiet">{{ t('drip.compare.how') }}</p>
      <ul class="cards" :aria-label="t('drip.compare.title')">
        <li v-for="one in layouts" :key="name(one) + one.which" :class="{ best: one.best }">
          <h3>{{ name(one) }}</h3>
          <p class="state">
            <strong v-if="one.best" class="mark">{{ t('drip.compare.best') }}</strong>
            <span v-if="misses(one)" class="warn">{{ misses(one) }}</span>
            <span v-else>{{ t('drip.allSix') }}</span>
          </p>
          <PlanThumb :of="found" :layout="one" :label="t('drip.planLabel', { n: one.emitters.length })" />
          <ReachLine :reach="one.reach" :every-days="found.every_days" />
          <dl>
            <dt>{{ t('drip.compare.thirst') }}</dt>
            <dd :class="{ warn: one.over.dry_days > 0 }">{{ t('drip.compare.days', one.over.dry_days) }}</dd>
            <dt v-if="one.over.wet_days">{{ t('drip.compare.wet') }}</dt>
            <dd v-if="one.over.wet_days" class="warn">{{ t('drip.compare.days', one.over.wet_days) }}</dd>
            <dt>{{ t('drip.compare.outgrown') }}</dt>
            <dd>{{ one.move_on ? longDay(one.move_on) : t('drip.compare.notYet') }}</dd>
            <dt>{{ t('drip.compare.waterings') }}</dt>
            <dd>{{ one.over.waterings }}</dd>
            <dt>{{ t('drip.compare.water') }}</dt>
            <dd>{{ text('volume', one.over.litres, 0) }}</dd>
            <dt>{{ t('drip.compare.valve') }}</dt>
            <dd>{{ time(60 * one.over.run_h) }}</dd>
            <dt>{{ t('drip.compare.work') }}</dt>
            <dd>{{ time(one.over.hands_min) }}</dd>
          </dl>
          <p class="takes">{{ takes(one) }}</p>
          <p class="takes">{{ later(one) }}</p>
          <button v-if="one.which === 'pattern'" type="button" class="button" @click="$emit('try', one.choice)">
            {{ t('drip.try') }}
          </button>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.compare {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(156px, 1fr));
  gap: var(--space-5);
  width: 100%;
}
.cards li {
  display: grid;
  gap: var(--space-2);
  align-content: start;
  border-top: 2px solid var(--ink);
  padding-top: var(--space-2);
}
.cards li.best {
  border-top: 6px solid var(--water);
}
h3 {
  font-size: var(--text-3);
  font-weight: 600;
  min-height: 2.6em;
}
.state {
  min-height: 3em;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px var(--space-3);
}
dt {
  font-family: var(--condensed);
}
dd {
  margin: 0;
  text-align: right;
  font-weight: 600;
}
.mark {
  display: block;
}
.takes {
  font-family: var(--condensed);
}
</style>
