<script setup lang="ts">
/** Planting day in order, with this planting's own figures: what is asked for is there, what is not is left out. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { useDose } from '@/composables/useDose'
import { text } from '@/units'

const props = defineProps<{ figures: Schema['PlantingFiguresOut']; kind: string; fruit?: string }>()
const { t } = useI18n()
const { dose } = useDose()
const steps = computed(() => {
  const { hole, choice, mix, first } = props.figures
  const depth = text('small', hole.depth_m)
  const mixed = [
    mix.compost_l > 0 ? `${text('bulk', mix.compost_l)} ${t('planting.compost')}` : '',
    mix.coir_l > 0 ? `${text('bulk', mix.coir_l)} ${t('planting.coir')}` : '',
    mix.sand_l > 0 ? `${text('bulk', mix.sand_l)} ${t('planting.sand')}` : '',
  ].filter(Boolean)
  const firm = t(`planting.step.firm.${choice.firming ?? 'in_layers'}`)
  const said = [
    t('planting.step.call'),
    props.kind === 'bare_root' ? '' : t('planting.step.waterStock'),
    props.kind === 'bare_root' ? '' : t('planting.flareFirst'),
    t('planting.step.dig', { depth, top: text('small', hole.top_diameter_m, 0) }),
    choice.edging_m > 0 ? t('planting.step.edging', { across: text('small', choice.edging_m, 0) }) : '',
    mix.poured_through_l > 0 ? t('planting.step.through', { litres: text('volume', mix.poured_through_l, 0) }) : '',
    choice.support === 'none' ? '' : t(choice.support === 'one_stake' ? 'planting.step.stake' : 'planting.step.posts'),
    props.kind === 'bare_root' ? t('planting.step.bare') : t('planting.step.set', { depth }),
    props.kind === 'balled' ? t('planting.step.undress') : props.kind === 'bare_root' ? '' : t('planting.step.pot'),
    ...props.figures.doses.map((d) => t('planting.step.aid', { aid: t(`planting.aid.${d.aid}`), dose: dose(d) })),
    t('planting.step.upright'),
    choice.graft_m === null || choice.graft_m === undefined ? '' : t('planting.step.graft'),
    mixed.length ? t('planting.step.fillMix', { mix: mixed.join(', '), firm }) : t('planting.step.fill', { firm }),
    choice.depth_school === 'high' ? t('planting.step.mound') : '',
    t('planting.step.ridge', {
      ridge: text('small', choice.ridge_m, 0),
      basin: text('large', choice.basin_diameter_m, 1),
    }),
    first.litres > 0
      ? t(first.times > 1 ? 'planting.step.waterTwice' : 'planting.step.water', {
          each: text('volume', first.litres / first.times),
          litres: text('volume', first.litres),
          goes: t('planting.goes', { n: first.goes, rest: Math.round(first.rest_min) }, first.goes),
        })
      : '',
    choice.well_filled ? t('planting.step.well') : '',
    choice.support !== 'none' ? t('planting.step.tie') : '',
    choice.wrap ? t('planting.step.wrap') : '',
    choice.guard !== 'none' ? t('planting.step.guard') : '',
    t('planting.step.prune'),
    props.fruit && props.fruit !== 'none' ? t('planting.step.fruit') : '',
    t('planting.step.feed'),
  ]
  return said.filter(Boolean)
})
</script>

<template>
  <ol>
    <li v-for="s in steps" :key="s">{{ s }}</li>
  </ol>
</template>

<style scoped>
ol {
  list-style: decimal;
  padding-left: var(--space-6);
  display: grid;
  gap: var(--space-1);
}
@media print {
  ol {
    display: block;
    columns: 2;
    column-gap: 8mm;
  }
  li {
    break-inside: avoid;
    margin-bottom: 1mm;
  }
}
</style>
