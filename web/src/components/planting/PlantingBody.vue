<script setup lang="ts">
/** Everything of a planting below its act: schools, measures, room, steps, aids, the sums. */
import { useI18n } from 'vue-i18n'
import type { Schema, Wrong } from '@/api/client'
import WorkingLines from '@/components/common/WorkingLines.vue'
import AidFields from '@/components/planting/AidFields.vue'
import PlantingFields from '@/components/planting/PlantingFields.vue'
import PlantSteps from '@/components/planting/PlantSteps.vue'
import SchoolChoice from '@/components/planting/SchoolChoice.vue'
import { text } from '@/units'

type Choice = Schema['PlantingChoiceIO']
const props = defineProps<{
  figures: Schema['PlantingFiguresOut']
  kind: string
  fruit?: string
  errors: Record<string, Wrong>
  fixed?: boolean
  flareTyped: boolean
}>()
const choice = defineModel<Choice>({ required: true })
const flare = defineModel<number>('flare', { required: true })
const { t } = useI18n()
const raiseOf = (school: string) => {
  const d = props.figures.depths.find((x) => x.school === school)
  return d && d.raise_m !== 0
    ? t(d.raise_m > 0 ? 'planting.over' : 'planting.under', { raise: text('small', Math.abs(d.raise_m)) })
    : ''
}
function depthSchool(school: string) {
  const d = props.figures.depths.find((x) => x.school === school)
  const filled = school === 'sunken' && choice.value.well_filled
  const depth = { depth_school: school as Choice['depth_school'], raise_m: d?.raise_m ?? 0 }
  choice.value = { ...choice.value, ...depth, well_filled: filled }
}
const room = (r: Schema['RoomOut']) =>
  r.code === 'little_sun'
    ? t('planting.room.little_sun', { has: r.has, wants: r.wants })
    : t(`planting.room.${r.code}`, { has: text('large', r.has, 1), wants: text('large', r.wants, 1) })
</script>

<template>
  <div class="lower">
    <section class="no-print">
      <SchoolChoice
        name="depth"
        words="depth"
        :title="t('planting.schools')"
        :schools="figures.depths"
        :extra="raiseOf"
        :model-value="choice.depth_school"
        @update:model-value="depthSchool"
      />
    </section>
    <section class="no-print">
      <SchoolChoice
        name="fill"
        words="fill"
        :title="t('planting.fills')"
        :schools="figures.backfills"
        :model-value="choice.backfill_school ?? 'as_dug'"
        @update:model-value="(s) => (choice = { ...choice, backfill_school: s as Choice['backfill_school'] })"
      />
    </section>
    <section>
      <h2 class="ruled-head spaced">{{ t('planting.stepsTitle') }}</h2>
      <PlantSteps :figures="figures" :kind="kind" :fruit="fruit" />
    </section>
    <section>
      <h2 class="ruled-head spaced">{{ t('planting.place') }}</h2>
      <ul class="room">
        <li v-for="r in figures.room" :key="r.code" :class="{ warn: r.code !== 'crowns_touch' }">{{ room(r) }}</li>
        <li v-if="!figures.room.length">{{ t('planting.roomFine') }}</li>
      </ul>
      <h2 class="ruled-head spaced second no-print">{{ t('planting.measures') }}</h2>
      <PlantingFields
        v-model="choice"
        v-model:flare="flare"
        class="no-print"
        :errors="errors"
        :kind="kind"
        :fittings="figures.fittings"
        :flare-typed="flareTyped"
      />
    </section>
    <section class="no-print">
      <AidFields
        :doses="figures.doses"
        :model-value="choice.aids ?? []"
        @update:model-value="(a) => (choice = { ...choice, aids: a })"
      />
      <slot />
    </section>
    <section class="no-print">
      <h2 class="ruled-head spaced">{{ t('planting.workingFor') }}</h2>
      <WorkingLines :lines="figures.working" />
    </section>
  </div>
</template>

<style scoped>
.lower {
  display: grid;
  grid-template-columns: minmax(0, 548px) minmax(0, 560px);
  gap: var(--space-6) var(--space-7);
  align-items: start;
}
.second {
  margin-top: var(--space-5);
}
.room li {
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 1023px) {
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media print {
  .lower {
    grid-template-columns: 1fr;
    gap: 2mm;
    font-size: 10.5pt;
  }
  h2 {
    font-size: 12pt;
    margin-bottom: 1mm;
  }
}
</style>
