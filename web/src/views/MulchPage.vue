<script setup lang="ts">
/** A tree's mulch ring on the same soil line: what to bring, in what is carried; what is there; what is wrong with it. */
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import BigFigure from '@/components/common/BigFigure.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import WorkingLines from '@/components/common/WorkingLines.vue'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import RingPlan from '@/components/sheet/RingPlan.vue'
import SoilScene from '@/components/sheet/SoilScene.vue'
import { dayCount } from '@/composables/useDay'
import { useResource } from '@/composables/useResource'
import { monthYear } from '@/logic/dates'
import { isUs, text } from '@/units'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const narrow = useMediaQuery('(max-width: 767px)')
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}/mulch', { params: { path: { tree_id: props.id } }, signal })),
  [() => props.id, dayCount],
)
const SIZES_L: Record<string, number> = { barrow_85_l: 85, tub_57_l: 57, bin_121_l: 121, bag_57_l: 57 }
const GALLONS: Record<string, number> = { tub_57_l: 15, bin_121_l: 32 }
const FEET3: Record<string, number> = { barrow_85_l: 3, bag_57_l: 2 }
function size(what: string): string {
  if (!isUs.value) return `${SIZES_L[what]}\u00a0L`
  return GALLONS[what] ? `${GALLONS[what]}\u00a0gal` : `${FEET3[what]}\u00a0ft³`
}
const bulk = computed(() => {
  const m = data.value!
  return isUs.value ? `${m.cubic_yards.toFixed(2)}\u00a0yd³` : `${m.cubic_metres.toFixed(2)}\u00a0m³`
})
const material = computed(() => (data.value ? t(`material.${data.value.material}`) : ''))
const needed = computed(() => (data.value?.missing_loose_l ?? 0) >= 1)
const thin = computed(() => data.value?.findings.some((f) => f.code === 'too_shallow') ?? false)
// the ring as it should stand, drawn where none is there yet
const drawn = computed(() => {
  const m = data.value
  if (!m?.section) return null
  return {
    ...m.section,
    mulch_outer_radius_m: m.outer_radius_m,
    mulch_depth_m: m.has_ring ? m.depth_now_m : m.target_depth_m,
  }
})
const findingWords = (code: string) =>
  t(`mulch.finding.${code}`, {
    gap: text('small', 0.08, 0),
    least: text('small', 0.45, 0),
    most: text('small', 0.1, 0),
  })
</script>

<template>
  <StatePanel :error="error" :loading="loading && !data" @retry="load">
    <template v-if="data">
      <SoilScene :above="104" :below="266">
        <template #drawing="{ width, height, ground, phone }">
          <CutawayDrawing
            v-if="drawn"
            :section="drawn"
            :size="phone ? 'medium' : 'large'"
            :width="width"
            :height="height"
            :ground="ground"
            :mulch-label="t('cutaway.mulch', { depth: text('small', drawn.mulch_depth_m) })"
          />
        </template>
        <template #act>
          <template v-if="needed">
            <p class="bring">{{ t('mulch.bring') }}</p>
            <BigFigure dimension="volume" :value="data.missing_loose_l" :size="72" />
            <p class="time">
              {{ t('mulch.loose', { material }) }},
              {{ t('mulch.settled', { amount: text('volume', data.missing_settled_l, 0) }) }}
            </p>
            <p v-if="!data.has_ring" class="quiet">{{ t('mulch.noRing') }}</p>
          </template>
          <template v-else>
            <p class="none">{{ t('mulch.enough') }}</p>
            <p class="time">{{ t('mulch.enoughWords', { depth: text('small', data.depth_now_m), material }) }}</p>
          </template>
          <p v-if="data.top_up_on && data.has_ring && !thin" class="time">
            {{ t('mulch.topUp', { depth: text('small', 0.05, 0), when: monthYear(data.top_up_on) }) }}
          </p>
          <p v-if="!data.top_up_on" class="quiet">{{ t('mulch.never') }}</p>
          <ul class="findings">
            <li v-for="f in data.findings" :key="f.code" class="warn">{{ findingWords(f.code) }}</li>
          </ul>
        </template>
        <template #hang>
          <div v-if="needed" class="carried">
            <h2>{{ t('mulch.or') }}</h2>
            <ul>
              <li v-for="(n, what) in data.carried" :key="what">
                <strong>{{ n }}</strong> {{ t(`mulch.${what}`, { size: size(what) }) }}
              </li>
              <li>
                <strong>{{ bulk }}</strong>
              </li>
            </ul>
          </div>
          <div v-else class="carried" />
          <RingPlan :mulch="data" :width="narrow ? 358 : 560" :height="narrow ? 168 : 246" :stacked="narrow" />
        </template>
      </SoilScene>
      <p class="caution">{{ t('mulch.caution') }}</p>
      <div class="lower">
        <section>
          <h2>{{ t('mulch.ring') }}</h2>
          <dl>
            <dt>{{ t('mulch.depth') }}</dt>
            <dd>{{ text('small', data.depth_now_m) }}</dd>
            <dt>{{ t('mulch.target') }}</dt>
            <dd>{{ text('small', data.target_depth_m) }}</dd>
            <dt>{{ t('mulch.radius') }}</dt>
            <dd>{{ text('large', data.outer_radius_m) }}</dd>
            <dt>{{ t('mulch.bare') }}</dt>
            <dd>{{ text('small', data.bare_radius_m) }}</dd>
            <dt>{{ t('mulch.area') }}</dt>
            <dd>{{ text('area', data.area_m2) }}</dd>
          </dl>
          <p v-if="!data.findings.length" class="quiet">{{ t('mulch.fine') }}</p>
        </section>
        <section>
          <h2>{{ t('sheet.workingFor') }}</h2>
          <WorkingLines :lines="data.working" />
        </section>
      </div>
    </template>
  </StatePanel>
</template>

<style scoped>
.bring {
  font-size: 28px;
  font-weight: 600;
}
.time {
  font-size: 20px;
  font-weight: 500;
  margin-top: 6px;
}
.none {
  font-size: 40px;
  font-weight: 600;
}
.findings {
  display: grid;
  gap: 6px;
  margin: 8px 0;
}
.carried {
  min-height: 114px;
  padding-top: 6px;
}
.carried h2 {
  font-size: 18px;
}
.carried ul {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 28px;
  font-size: 18px;
}
.carried strong {
  font-size: 22px;
}
.caution {
  margin: 14px 0 20px;
}
.lower {
  display: grid;
  grid-template-columns: minmax(0, 548px) minmax(0, 560px);
  gap: 36px;
  align-items: start;
}
.lower h2 {
  font-size: 20px;
  border-bottom: 2px solid var(--ink);
  padding-bottom: 4px;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
}
dt,
dd {
  border-bottom: 1px solid var(--hair);
  padding: 9px 0;
}
dd {
  text-align: right;
  font-weight: 600;
}
@media (max-width: 1023px) {
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
