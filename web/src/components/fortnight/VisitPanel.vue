<script setup lang="ts">
/** What can be done with the tree and day in hand: moved by buttons as by keys, and the price in words. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import ActButton from '@/components/common/ActButton.vue'
import { litresOf, type Lifted, type TreeAhead } from '@/composables/useFortnight'
import { longDay, weekdayShort } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{
  tree: TreeAhead
  day: number
  days: string[]
  lifted: Lifted | null
  busy: boolean
}>()
defineEmits<{
  lift: [to: number]
  move: [to: number]
  keep: []
  back: []
  wish: [what: 'pin' | 'forbid' | 'free']
  close: []
}>()
const { t } = useI18n()
const A_LITTLE_L = 0.5
const visit = computed(() => props.tree.visits.find((v) => v.day === props.day) ?? null)
const wish = computed(() => props.tree.wishes.find((w) => w.day === props.day) ?? null)
const moving = computed(() => (props.lifted?.tree.id === props.tree.id ? props.lifted : null))
const title = computed(() => {
  const to = moving.value ? moving.value.to : props.day
  return `${props.tree.tag}, ${longDay(props.days[to]!)}`
})
/** What the tree is told by, as it would stand then. */
const words = computed(() => {
  const tried = moving.value?.tried
  if (!moving.value || moving.value.from === moving.value.to) {
    const parts = []
    if (visit.value) parts.push(t('fortnight.panel.pours', { amount: text('volume', litresOf(visit.value)) }))
    else if (props.day === 0 && props.tree.waits) {
      const next = props.tree.visits[0]
      const cost = t(props.tree.waits_word ? `harm.${props.tree.waits_word}` : 'harm.none')
      parts.push(
        next
          ? t('fortnight.panel.waits', { day: longDay(props.days[next.day]!), cost })
          : t('fortnight.panel.waitsOn', { cost }),
      )
    } else parts.push(t('fortnight.panel.nothing'))
    if (props.tree.word) parts.push(t('fortnight.panel.word', { word: t(`harm.${props.tree.word}`) }))
    if (wish.value)
      parts.push(t(`fortnight.panel.wish.${wish.value.wish}`, { by: wish.value.by ?? t('fortnight.panel.someone') }))
    return parts.join(' ')
  }
  if (!tried) return t('fortnight.panel.asking')
  const harm = tried.word ? t(`harm.${tried.word}`) : t('harm.none')
  const before = tried.word_before ? t(`harm.${tried.word_before}`) : t('harm.none')
  const parts = [
    tried.word === tried.word_before
      ? t('fortnight.panel.same', { word: harm })
      : t('fortnight.panel.instead', { word: harm, before }),
  ]
  if (Math.abs(tried.litres) > A_LITTLE_L) {
    const amount = text('volume', Math.abs(tried.litres))
    parts.push(t(tried.litres > 0 ? 'fortnight.panel.more' : 'fortnight.panel.less', { amount }))
  }
  if (tried.trees.length > 1) parts.push(t('fortnight.panel.line', { n: tried.trees.length }))
  if (tried.forbidden.includes(moving.value.to)) parts.push(t('fortnight.panel.forbidden'))
  return parts.join(' ')
})
const warns = computed(
  () => moving.value?.tried?.word === 'may_die' || moving.value?.tried?.forbidden.includes(moving.value.to),
)
</script>

<template>
  <section class="panel no-print" :aria-label="title">
    <div class="told" aria-live="polite">
      <h2>
        {{ title }}
        <button type="button" class="button plain close" @click="$emit('close')">{{ t('common.close') }}</button>
      </h2>
      <p :class="{ warn: warns }">{{ words }}</p>
    </div>
    <div v-if="moving" class="acts">
      <ActButton class="main" :disabled="busy || moving.from === moving.to || !moving.tried" @act="$emit('keep')">{{
        t('fortnight.panel.keep', { day: weekdayShort(days[moving.to]!) })
      }}</ActButton>
      <ActButton class="plain" :disabled="moving.to === 0" @act="$emit('move', moving.to - 1)">{{
        t('fortnight.panel.sooner')
      }}</ActButton>
      <ActButton class="plain" :disabled="moving.to === 13" @act="$emit('move', moving.to + 1)">{{
        t('fortnight.panel.later')
      }}</ActButton>
      <ActButton class="plain" @act="$emit('back')">{{ t('fortnight.panel.back') }}</ActButton>
    </div>
    <div v-else class="acts">
      <template v-if="visit">
        <ActButton class="plain" :disabled="busy || day === 0" @act="$emit('lift', day - 1)">{{
          t('fortnight.panel.sooner')
        }}</ActButton>
        <ActButton class="plain" :disabled="busy || day === 13" @act="$emit('lift', day + 1)">{{
          t('fortnight.panel.later')
        }}</ActButton>
      </template>
      <ActButton v-if="wish?.wish !== 'pin'" class="plain" :disabled="busy" @act="$emit('wish', 'pin')">{{
        t(visit ? 'fortnight.panel.pin' : 'fortnight.panel.add')
      }}</ActButton>
      <ActButton v-if="wish?.wish !== 'forbid'" class="plain" :disabled="busy" @act="$emit('wish', 'forbid')">{{
        t('fortnight.panel.forbid')
      }}</ActButton>
      <ActButton v-if="wish" class="plain" :disabled="busy" @act="$emit('wish', 'free')">{{
        t('fortnight.panel.free')
      }}</ActButton>
    </div>
  </section>
</template>

<style scoped>
.panel {
  position: sticky;
  bottom: 0;
  z-index: 2;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: var(--space-3) var(--space-6);
  align-items: center;
  background: var(--ground);
  border-top: 2px solid var(--ink);
  padding: var(--space-3) 0;
}
h2 {
  font-size: var(--text-3);
  display: flex;
  align-items: center;
  gap: var(--space-4);
}
.close {
  font-size: var(--text-1);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
}
@media (max-width: 1100px) {
  .panel {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 767px) {
  .panel {
    bottom: 64px;
  }
  h2 {
    justify-content: space-between;
  }
  .acts {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: var(--space-1) var(--space-3);
  }
  .acts > * {
    min-height: 52px;
    padding: 0;
  }
}
</style>
