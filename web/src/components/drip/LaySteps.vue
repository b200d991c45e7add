<script setup lang="ts">
/** How to lay it, in words and lengths to cut: what the drawing shows, so that the page alone is enough. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { toward } from '@/drawing/plan'
import { listed } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{
  look: Schema['DripLook']
  lateral?: Schema['LateralOut']
  length?: number
  hedge?: boolean
}>()
const { t } = useI18n()
const PIN_EVERY_M = 1
const bore = (mm: number) => text('bore', mm)
const runs = computed(() => {
  const kinds = new Map<string, Schema['RunOut'][]>()
  for (const r of props.look.runs) kinds.set(r.kind, [...(kinds.get(r.kind) ?? []), r])
  return kinds
})
const total = (kind: string) => (runs.value.get(kind) ?? []).reduce((sum, r) => sum + r.length_m, 0)
/** Emitters at the same distance from the trunk as a ring. */
const on = (radius: number) =>
  props.look.emitters.filter((e) => Math.abs(Math.hypot(e.x_m, e.y_m) - radius) < 0.01).length
const words = computed(() => {
  const c = props.look.choice
  const said: string[] = []
  const lat = props.lateral
  if (lat && props.length !== undefined) {
    const side = lat.offset_m >= 0 ? t('drip.steps.right') : t('drip.steps.left')
    said.push(
      props.hedge
        ? t('drip.steps.lead', { length: text('large', props.length, 1), bore: bore(lat.bore_mm) })
        : t('drip.steps.lateral', {
            length: text('large', props.length, 1),
            bore: bore(lat.bore_mm),
            off: text('small', Math.abs(lat.offset_m), 0),
            side,
          }),
    )
  }
  const feeder = runs.value.get('feeder')?.[0]
  if (feeder)
    said.push(t('drip.steps.feeder', { length: text('small', feeder.length_m, 0), bore: bore(feeder.bore_mm) }))
  const ring = runs.value.get('ring')?.[0]
  if (ring) {
    const n = on(c.radius_m)
    said.push(
      t('drip.steps.ring', {
        length: text('small', ring.length_m, 0),
        bore: bore(ring.bore_mm),
        radius: text('small', c.radius_m, 0),
        n,
        apart: text('small', ring.length_m / Math.max(1, n), 0),
      }),
    )
  }
  const inner = runs.value.get('inner')?.[0]
  if (inner) {
    const n = on(c.inner_radius_m)
    said.push(
      t('drip.steps.inner', {
        length: text('small', inner.length_m, 0),
        bore: bore(inner.bore_mm),
        radius: text('small', c.inner_radius_m, 0),
        n,
        apart: text('small', inner.length_m / Math.max(1, n), 0),
        spoke: text('small', total('spoke'), 0),
      }),
    )
  }
  const arms = runs.value.get('arm')
  if (arms)
    said.push(
      t('drip.steps.arms', {
        n: arms.length,
        length: text('small', Math.max(...arms.map((a) => a.length_m)), 0),
        reach: text('small', c.arm_reach_m, 0),
        bore: bore(arms[0]!.bore_mm),
      }),
    )
  const lines = runs.value.get('line')
  if (lines)
    said.push(
      c.points
        ? t('drip.steps.beside', lines.length, {
            named: {
              n: lines.length,
              off: text('small', c.offset_m, 0),
              bore: bore(lines[0]!.bore_mm),
              points: c.points,
              apart: text('small', c.spacing_m, 0),
            },
          })
        : t('drip.steps.along', lines.length, {
            named: {
              n: lines.length,
              off: text('small', c.offset_m, 0),
              bore: bore(lines[0]!.bore_mm),
              apart: text('small', lines[0]!.length_m / (props.look.emitters.length / lines.length), 0),
            },
          }),
    )
  for (const e of props.look.emitters.filter((one) => one.by_hand)) {
    const { away, bearing } = toward(e.x_m, e.y_m)
    said.push(t('drip.steps.byHand', { n: e.number, away: text('small', away, 1), bearing: Math.round(bearing) }))
  }
  const tees = props.look.fittings.filter((f) => f.kind === 'tee')
  for (const number of new Set(c.edits.filter((edit) => edit.kind === 'tee').map((edit) => edit.number))) {
    const tee = tees[number - 1]
    if (!tee) continue
    const { away, bearing } = toward(tee.x_m, tee.y_m)
    said.push(t('drip.steps.teeByHand', { n: number, away: text('small', away, 1), bearing: Math.round(bearing) }))
  }
  const others = props.look.emitters.filter((e) => e.sold_as_l_per_h !== c.flow_l_per_h)
  for (const flow of new Set(others.map((e) => e.sold_as_l_per_h))) {
    const numbers = others.filter((e) => e.sold_as_l_per_h === flow).map((e) => String(e.number))
    said.push(t('drip.steps.ownFlow', { numbers: listed(numbers), flow: text('flow', flow) }, numbers.length))
  }
  said.push(t('drip.steps.pins', { far: text('large', PIN_EVERY_M, 1) }))
  return said
})
</script>

<template>
  <ol>
    <li v-for="(w, n) in words" :key="n">{{ w }}</li>
  </ol>
</template>

<style scoped>
ol {
  list-style: decimal;
  padding-left: var(--space-6);
  display: grid;
  gap: var(--space-1);
}
</style>
