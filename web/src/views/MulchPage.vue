<script setup lang="ts">
/** A tree's mulch: what to lay now, the ring in section and plan on one soil line, what it saves, the look at it. */
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import BigFigure from '@/components/common/BigFigure.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import WorkingLines from '@/components/common/WorkingLines.vue'
import MaterialTable from '@/components/mulch/MaterialTable.vue'
import MulchFields from '@/components/mulch/MulchFields.vue'
import MulchPlan from '@/components/mulch/MulchPlan.vue'
import MulchSection from '@/components/mulch/MulchSection.vue'
import RingLook from '@/components/mulch/RingLook.vue'
import SoilScene from '@/components/water/SoilScene.vue'
import { useCarried } from '@/composables/useCarried'
import { oncePainted } from '@/composables/useLater'
import { useMulchActs } from '@/composables/useMulchActs'
import { useMulchDraft } from '@/composables/useMulchDraft'
import { useResource } from '@/composables/useResource'
import { fullDay, monthYear } from '@/logic/dates'
import { isUs, text } from '@/units'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const narrow = useMediaQuery('(max-width: 767px)')
const path = () => ({ tree_id: props.id })
const draft = useMulchDraft(() => props.id)
const { data, error, loading, load, page, choice, typed, errors, measure } = draft
const painted = oncePainted(() => data.value)
/** A year is gone through for it: it comes after the page. */
const { data: saving, loading: reckoning } = useResource(
  async (signal) =>
    page.value &&
    take(api.POST('/api/trees/{tree_id}/mulch/saving', { params: { path: path() }, body: page.value.choice, signal })),
  [page],
)
const { busy, said, failed, keep, keepForStop, ringIn, laid, takeBack } = useMulchActs(() => props.id, draft)
const { inWords, bulk } = useCarried()
const material = computed(() => (page.value ? t(`material.${page.value.choice.material}`) : ''))
const needed = computed(() => {
  const m = page.value
  return Boolean(m && m.laid.missing_loose_l >= 1 && (m.due || typed.value || !m.suggested))
})
const urgent = computed(() => ['pull_back', 'in_stages', 'thin_out'].includes(page.value?.verdict ?? ''))
const ballRadius = computed(() => {
  const m = page.value
  return m?.section?.ball_radius_m ?? (m ? m.tree.ball_diameter_m / 2 : 0)
})
const findingWords = (code: string) =>
  t(`mulch.finding.${code}`, {
    gap: text('small', page.value!.limits.gap_m, 0),
    least: text('large', page.value!.limits.least_radius_m, 1),
    most: text('small', page.value!.limits.deepest_m, 0),
    full: text('small', page.value!.limits.full_cover_m, 0),
  })
const half = computed(() => {
  const months = Math.round(page.value?.half_life_months ?? 0)
  return t('mulch.months', { n: months }, months)
})
const thinWords = computed(() => {
  const m = page.value
  if (!m?.thin_on) return ''
  const words = { depth: text('small', m.limits.full_cover_m, 0), when: monthYear(m.thin_on) }
  return t(m.thin_on <= m.today ? 'mulch.thinSince' : 'mulch.thinOn', words)
})
const share = computed(() => {
  return `${Math.round(100 * page.value!.laid.counted_share)}\u00a0%`
})
function history(h: Schema['MulchEntryOut']): string {
  const day = fullDay(h.day)
  const depth = text('small', h.depth_m)
  if (h.kind === 'check') return t('mulch.hCheck', { day, depth })
  const words = { day, depth, material: h.material ? t(`material.${h.material}`) : '' }
  return h.loose_l ? t('mulch.hLaid', { ...words, loose: bulk(h.loose_l) }) : t('mulch.hLaidPlain', words)
}
</script>

<template>
  <StatePanel :error="error" :loading="loading && !page" @retry="load">
    <template v-if="page && choice">
      <SoilScene :above="20" :below="250">
        <template #drawing="{ width, height, ground, phone }">
          <MulchSection
            :mulch="page"
            :width="width"
            :height="height"
            :ground="ground"
            :phone="phone"
            :ball-radius="ballRadius"
          />
        </template>
        <template #act>
          <template v-if="page.verdict && urgent">
            <p class="none warn">
              {{
                t(`mulch.verdict.${page.verdict}`, {
                  over: text('small', page.limits.deepest_m, 0),
                  by: '',
                  loose: '',
                  material,
                })
              }}
            </p>
            <p class="time">{{ t('mulch.enoughWords', { depth: text('small', page.depth_now_m), material }) }}</p>
          </template>
          <template v-else-if="needed">
            <p class="lead">{{ page.has_ring ? t('mulch.topUp') : t('mulch.lay') }}</p>
            <BigFigure dimension="bulk" :value="page.laid.missing_loose_l" :size="narrow ? 52 : 64" />
            <p class="time">
              {{ t('mulch.loose', { material, settled: text('bulk', page.laid.missing_settled_l) }) }}
            </p>
            <p class="carried">{{ t('mulch.carriedAs', { what: inWords(page.order.carried) }) }}</p>
          </template>
          <template v-else>
            <p class="none">{{ t('mulch.enough') }}</p>
            <p class="time">{{ t('mulch.enoughWords', { depth: text('small', page.depth_now_m), material }) }}</p>
            <p v-if="page.has_ring && page.thin_on" class="time">
              {{ thinWords }}
            </p>
          </template>
          <p v-if="needed && !urgent" class="how">
            {{
              t('mulch.spread', {
                depth: text('small', page.choice.depth_m),
                gap: text('small', page.choice.clear_gap_m),
                radius: text('large', page.choice.outer_radius_m),
              })
            }}
            <template v-if="page.thin_radius_m > 0">{{
              t('mulch.thinBall', { depth: text('small', page.limits.ball_first_season_m, 0) })
            }}</template>
            {{ t('mulch.proof', { depth: text('small', page.choice.depth_m) }) }}
          </p>
          <p v-if="!page.has_ring" class="quiet">{{ t('mulch.noRing') }}</p>
          <ul class="findings">
            <li v-for="f in page.findings" :key="f.code" class="warn">{{ findingWords(f.code) }}</li>
          </ul>
          <div class="buttons no-print">
            <button
              v-if="needed && !urgent"
              type="button"
              class="button main"
              :disabled="busy || Object.keys(errors).length > 0"
              @click="laid"
            >
              {{ t('mulch.laid') }}
            </button>
            <a v-if="urgent" class="button main" href="#look">{{ t('mulch.lookAgain') }}</a>
            <RouterLink class="button" :to="{ name: 'order', query: { site: page.tree.site_id, tree: id } }">{{
              t('mulch.order')
            }}</RouterLink>
          </div>
          <p v-if="said" role="status">{{ said }}</p>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
        </template>
        <template #hang>
          <MulchPlan
            class="plan"
            :mulch="page"
            :width="narrow ? 358 : 520"
            :height="narrow ? 200 : 226"
            :ball-radius="ballRadius"
          />
        </template>
      </SoilScene>
      <div v-if="painted" class="lower">
        <section>
          <h2>{{ t('mulch.saves') }}</h2>
          <template v-if="saving && !reckoning">
            <p v-if="saving.none_because" class="big">{{ t('mulch.savesNothing') }}</p>
            <p v-else class="big">{{ t('mulch.savesBig', { amount: text('volume', saving.saved_l, 0) }) }}</p>
            <p v-if="saving.none_because">{{ t(`mulch.because.${saving.none_because}`) }}</p>
            <p>
              {{
                t('mulch.savesWords', {
                  days: saving.days,
                  with: text('volume', saving.with_l, 0),
                  without: text('volume', saving.without_l, 0),
                  n: saving.waterings_with,
                  m: saving.waterings_without,
                })
              }}
            </p>
          </template>
          <p v-else-if="reckoning" class="quiet">{{ t('mulch.savesSoon') }}</p>
          <p v-else class="quiet">{{ t('mulch.savesNone') }}</p>
          <ul class="facts">
            <li v-if="page.laid.shared">{{ t(isUs ? 'mulch.shared' : 'mulch.sharedMetric', { share }) }}</li>
            <li>{{ t('mulch.area', { area: text('area', page.laid.area_m2) }) }}</li>
            <li v-if="page.has_ring && page.thin_on">
              {{ thinWords }}
              {{ t(page.measured ? 'mulch.ownPace' : 'mulch.usualPace', { half }) }}
            </li>
            <li v-else-if="page.has_ring">{{ t('mulch.never') }}</li>
            <li v-if="page.weeds_on">{{ t('mulch.weedsOn', { when: monthYear(page.weeds_on) }) }}</li>
            <li v-if="page.laid.underlay && page.laid.underlay.kind !== 'roll'">
              {{
                t(
                  'mulch.underSays',
                  { n: page.laid.underlay.sheets, wet: text('volume', page.laid.underlay.wetting_l, 0) },
                  page.laid.underlay.sheets,
                )
              }}
              {{ choice.over_ball ? '' : t('mulch.underBare') }}
            </li>
            <li v-else-if="page.laid.underlay">
              {{
                t('mulch.rollSays', {
                  length: text('large', page.laid.underlay.roll_m, 1),
                  wet: text('volume', page.laid.underlay.wetting_l, 0),
                })
              }}
            </li>
            <li v-if="page.laid.compost_l > 0">{{ text('bulk', page.laid.compost_l) }} {{ t('material.compost') }}</li>
            <li class="quiet">
              {{ t('mulch.inYard', { amount: bulk(page.order.on_hand_l) }) }}
              <template v-if="page.order.buy_l > 0">{{ t('mulch.toBuy', { buy: bulk(page.order.buy_l) }) }}</template>
            </li>
          </ul>
        </section>
        <section id="look" class="no-print">
          <h2>{{ t('mulch.look.title') }}</h2>
          <RingLook :tree-id="id" :material="material" :deepest="page.limits.deepest_m" @changed="load" />
        </section>
        <section class="no-print">
          <h2>{{ t('mulch.measures') }}</h2>
          <MulchFields
            :model-value="choice"
            :errors="errors"
            :materials="page.suitability"
            @update:model-value="measure"
          />
          <p v-if="page.weeds" class="warn after">{{ t('mulch.look.weedsDo') }}</p>
          <p v-if="page.suggested && !typed" class="quiet after">{{ t('mulch.suggested') }}</p>
          <p class="quiet after">{{ t('mulch.underDoubt') }}</p>
          <div class="buttons">
            <button
              type="button"
              class="button"
              :disabled="busy || !typed || Object.keys(errors).length > 0"
              @click="keep(choice)"
            >
              {{ t('mulch.save') }}
            </button>
            <button
              v-if="page.tree.stop"
              type="button"
              class="button"
              :disabled="busy || Object.keys(errors).length > 0"
              @click="keepForStop"
            >
              {{ t('mulch.saveMany', { stop: page.tree.stop }) }}
            </button>
            <button v-if="!page.suggested" type="button" class="button plain" :disabled="busy" @click="keep(null)">
              {{ t('mulch.asSuggested') }}
            </button>
          </div>
          <template v-if="page.edging_wanted_m > 0">
            <p class="edging">{{ t('mulch.edgingNone', { across: text('small', page.edging_wanted_m, 0) }) }}</p>
            <button v-lead type="button" class="button" :disabled="busy" @click="ringIn">
              {{ t('mulch.edgingIn') }}
            </button>
          </template>
          <p v-else-if="page.tree.edging_m > 0" class="edging">
            {{ t('mulch.edgingHas', { across: text('small', page.tree.edging_m, 0) }) }}
          </p>
        </section>
        <section>
          <h2>{{ t('mulch.history') }}</h2>
          <p v-if="!page.history.length" class="quiet">{{ t('mulch.noHistory') }}</p>
          <ul class="history">
            <li v-for="h in page.history" :key="h.id" :class="{ withdrawn: h.withdrawn }">
              <span>{{ history(h) }}</span>
              <span v-if="h.verdict && h.verdict !== 'fine'" class="quiet">{{
                h.weeds ? t('mulch.withWeeds') : ''
              }}</span>
              <button
                v-if="!h.withdrawn"
                type="button"
                class="button plain no-print"
                :disabled="busy"
                @click="takeBack(h.id)"
              >
                {{ t('mulch.undo') }}
              </button>
            </li>
          </ul>
          <p class="caution">{{ t('mulch.caution') }}</p>
        </section>
        <section class="no-print">
          <h2>{{ t('mulch.materials') }}</h2>
          <MaterialTable :materials="page.suitability" :chosen="choice.material" />
        </section>
        <section class="no-print">
          <h2>{{ t('treePage.workingFor') }}</h2>
          <WorkingLines :lines="[...page.working, ...(saving?.working ?? [])]" />
        </section>
      </div>
    </template>
  </StatePanel>
</template>

<style scoped>
.lead {
  font-size: var(--text-5);
  font-weight: 600;
  line-height: 1.2;
}
.time {
  font-size: var(--text-3);
  font-weight: 500;
  margin-top: var(--space-1);
}
.carried {
  font-size: var(--text-2);
}
.how {
  font-size: var(--text-2);
  margin-top: var(--space-2);
  max-width: 58ch;
}
.none {
  font-size: var(--text-6);
  font-weight: 600;
  line-height: 1.1;
}
.findings {
  display: grid;
  gap: var(--space-2);
  margin: var(--space-2) 0;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
.plan {
  margin-top: var(--space-6);
}
.big {
  font-size: var(--text-5);
  font-weight: 600;
}
.facts li,
.history li {
  border-bottom: 1px solid var(--hair);
  padding: var(--space-2) 0;
}
.history li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: var(--space-1) var(--space-3);
  padding: 0;
  min-height: var(--tap);
}
.withdrawn {
  text-decoration: line-through;
  color: var(--ink-2);
}
.after {
  margin-top: var(--space-3);
}
.edging {
  margin: var(--space-4) 0 var(--space-2);
}
.caution {
  margin-top: var(--space-4);
}
.lower {
  display: grid;
  grid-template-columns: minmax(0, 548px) minmax(0, 560px);
  gap: var(--space-6) var(--space-7);
  align-items: start;
  margin-top: var(--space-6);
}
.lower h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
  margin-bottom: var(--space-2);
}
@media (max-width: 1023px) {
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 767px) {
  .lead {
    font-size: var(--text-4);
  }
}
</style>
