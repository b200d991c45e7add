<script setup lang="ts">
/** A batch from the truck into the ground: look at the stock, dig to the mark, load, plant, write down. */
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, persist, take, type Schema } from '@/api/client'
import BigFigure from '@/components/common/BigFigure.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import ObstacleFields from '@/components/drip/ObstacleFields.vue'
import BallWeight from '@/components/planting/BallWeight.vue'
import HoleDrawing from '@/components/planting/HoleDrawing.vue'
import MovesTable from '@/components/planting/MovesTable.vue'
import PlantedDialog from '@/components/planting/PlantedDialog.vue'
import PlantingBody from '@/components/planting/PlantingBody.vue'
import WhenToPlant from '@/components/planting/WhenToPlant.vue'
import StockCheck from '@/components/planting/StockCheck.vue'
import SoilScene from '@/components/water/SoilScene.vue'
import { deviceId, useDevice } from '@/composables/useDevice'
import { useActing } from '@/composables/useActing'
import { usePlanting } from '@/composables/usePlanting'
import { usePageTitle } from '@/composables/usePageTitle'
import { oncePainted } from '@/composables/useLater'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'
import { plantingBody } from '@/logic/planting'
import { text } from '@/units'
import { treeName } from '@/i18n'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const router = useRouter()
const { person, ensurePerson } = useDevice()
const phone = useMediaQuery('(max-width: 767px)')
const path = () => ({ planting_id: props.id })
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/plantings/{planting_id}', { params: { path: path() }, signal })),
  [() => props.id],
)
const painted = oncePainted(() => data.value)
/** What stands beside the trees, as it is typed. */
const beside = ref<Schema['ObstacleIO'][]>([])
const { figures, choice, flare, typed, errors, fill, measure } = usePlanting((body, _, signal) =>
  take(
    api.POST('/api/plantings/look', {
      body: { ...plantingBody(data.value!), count: data.value!.left, choice: body, obstacles: beside.value },
      signal,
    }),
  ),
)
watch(data, (got) => {
  if (!got) return
  beside.value = got.obstacles.map((o) => ({ ...o }))
  fill(got.figures, got.flare_below_top_m)
})
function stand(value: Schema['ObstacleIO'][]) {
  beside.value = value
  measure({ ...choice.value! })
}
const done = computed(() => Boolean(data.value?.planted_on))
const looked = computed(() => data.value?.checks.length ?? 0)
const rejected = computed(() => data.value?.checks.filter((c) => c.verdict === 'reject').length ?? 0)
const checking = ref(false)
const number = ref(1)
function check(n: number) {
  number.value = n
  checking.value = true
}
const firstOpen = computed(() => {
  const seen = new Set(data.value?.checks.map((c) => c.number))
  for (let n = 1; n <= (data.value?.count ?? 0); n++) if (!seen.has(n)) return n
  return 1
})
const { busy, said, failed, act } = useActing(load)
const keep = () =>
  act(
    () =>
      persist(() =>
        api.PUT('/api/plantings/{planting_id}', {
          params: { path: path() },
          body: { ...plantingBody(data.value!), choice: choice.value, obstacles: beside.value },
        }),
      ),
    t('mulch.kept'),
  )
const planting = ref(false)
const planted = () => act(() => Promise.resolve(), t('planting.plantedSaid'))
async function undoPlanted() {
  if (!(await ensurePerson())) return
  const body = { device_id: deviceId(), person_id: person.value?.id ?? null }
  await act(
    () => persist(() => api.POST('/api/plantings/{planting_id}/planted/undo', { params: { path: path() }, body })),
    t('planting.undone'),
    { typed: false },
  )
}
async function callOff() {
  const gone = await act(
    () => persist(() => api.POST('/api/plantings/{planting_id}/withdraw', { params: { path: path() } })),
    t('planting.withdrawn'),
    { typed: false },
  )
  if (gone) void router.push({ name: 'site', params: { id: data.value!.site_id } })
}
const raise = computed(() => {
  const m = figures.value?.choice.raise_m ?? 0
  if (m === 0) return t('planting.level')
  return t(m > 0 ? 'planting.over' : 'planting.under', { raise: text('small', Math.abs(m)) })
})
const checkOf = (n: number): Schema['StockCheckOut'] | undefined => data.value?.checks.find((c) => c.number === n)
/** How it is lifted is said where the weight is. */
const LIFTS = new Set(['two_people', 'ball_cart', 'machine'])
const findings = computed(() => figures.value?.findings.filter((f) => !LIFTS.has(f.code)) ?? [])
/** A tree's own mark, where flares differ. */
const flaresDiffer = computed(() => new Set(data.value?.checks.map((c) => c.flare_below_top_m)).size > 1)
const markOf = (n: number) => {
  const found = checkOf(n)
  return found?.stake_mark_m && flaresDiffer.value && found.verdict !== 'reject'
    ? text('small', found.stake_mark_m)
    : ''
}
const print = () => window.print()
usePageTitle(() => (data.value ? `${t('planting.title')} · ${data.value.tag}` : undefined))
</script>

<template>
  <PageFrame class="planting" :error="error" :loading="loading && !figures" @retry="load">
    <template v-if="data && figures && choice" #title>
      <div>
        <p class="quiet">
          {{ treeName(data.plant.common) }} <i>{{ data.plant.botanical }}</i>, {{ t(`kind.${data.kind}`) }},
          {{ text('small', data.caliper_m) }}
        </p>
        <h1>
          {{ t('planting.of', { n: data.left, common: treeName(data.plant.common).toLowerCase() }, data.left) }},
          {{ data.stop }}
        </h1>
        <p class="quiet">
          <RouterLink class="where" :to="{ name: 'site', params: { id: data.site_id } }">{{
            data.site_name
          }}</RouterLink>,
          {{
            data.planted_on
              ? t('planting.planted', { day: fullDay(data.planted_on) })
              : t('planting.planned', { day: fullDay(data.planned_on) })
          }}
        </p>
      </div>
    </template>
    <template v-if="data && figures && choice">
      <SoilScene :above="14" :below="270">
        <template #drawing="{ width, height, ground, phone: small }">
          <HoleDrawing
            :figures="figures"
            :stock="data"
            :width="width"
            :height="height"
            :ground="ground"
            :phone="small"
          />
        </template>
        <template #act>
          <div v-if="!done && looked < data.count" class="look no-print">
            <p class="lead">
              {{
                looked
                  ? t('planting.lookNext', { n: firstOpen, all: data.count })
                  : t('planting.lookFirst', { n: data.count }, data.count)
              }}
            </p>
            <button type="button" class="button main" @click="check(firstOpen)">
              {{ t('planting.lookNext', { n: firstOpen, all: data.count }) }}
            </button>
          </div>
          <p class="lead">
            {{ done ? t('planting.wasDug') : t('planting.dig', { n: data.left }, data.left) }}
          </p>
          <p class="amount">
            <BigFigure dimension="small" :value="figures.hole.depth_m" :size="phone ? 52 : 64" />
            <span class="lead">{{ t('planting.deep') }}</span>
          </p>
          <p class="time">
            {{
              t('planting.across', {
                top: text('small', figures.hole.top_diameter_m, 0),
                base: text('small', figures.hole.base_diameter_m, 0),
              })
            }}
          </p>
          <p class="proofline">
            {{ t('planting.proof', { depth: text('small', figures.hole.stake_mark_m), raise }) }}
          </p>
          <p v-if="figures.first.litres > 0" class="proofline">
            {{ t('planting.water', { litres: text('volume', figures.first.litres) }) }},
            {{
              t(
                'planting.goes',
                { n: figures.first.goes, rest: Math.round(figures.first.rest_min) },
                figures.first.goes,
              )
            }},
            {{ t('planting.waterDone') }}
          </p>
          <ul class="findings">
            <li v-for="f in findings" :key="f.code" class="warn">{{ t(`planting.finding.${f.code}`) }}</li>
            <li v-if="rejected" class="warn">{{ t('planting.someRejected', { n: rejected }, rejected) }}</li>
          </ul>
          <div class="buttons no-print">
            <template v-if="!done">
              <button
                v-if="typed"
                type="button"
                class="button main"
                :disabled="busy || Object.keys(errors).length > 0"
                @click="keep"
              >
                {{ t('common.save') }}
              </button>
              <button v-if="typed" type="button" class="button" @click="load">{{ t('drip.undoTyped') }}</button>
              <button
                v-if="!typed && data.left > 0"
                type="button"
                class="button"
                :class="{ main: looked >= data.count }"
                :disabled="busy"
                @click="planting = true"
              >
                {{ data.left > 1 ? t('planting.plantedButton') : t('planting.plantedOne') }}
              </button>
              <RouterLink class="button" :to="{ name: 'order', query: { site: data.site_id, planting: data.id } }">{{
                t('planting.load')
              }}</RouterLink>
            </template>
            <template v-else>
              <RouterLink
                class="button main"
                :to="{ name: 'trees', query: { site: data.site_id, q: data.stop || data.tag } }"
                >{{ t('planting.seeTrees') }}</RouterLink
              >
              <button v-if="data.undoable" type="button" class="button" :disabled="busy" @click="undoPlanted">
                {{ t('planting.undoPlanted') }}
              </button>
            </template>
            <button type="button" class="button" @click="print">{{ t('planting.print') }}</button>
          </div>
          <p v-if="said" role="status">{{ said }}</p>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
        </template>
        <template #hang>
          <MovesTable class="moves" :figures="figures" />
          <p v-if="figures.hole.ball_weight_kg > 0" class="lift">
            <BallWeight :hole="figures.hole" /> {{ t(`planting.lift.${figures.hole.lift}`) }}
            {{ t('planting.liftNote') }}
          </p>
        </template>
      </SoilScene>
      <p class="caution">{{ t('planting.cautions') }}</p>
      <WhenToPlant v-if="!done && painted" :id="id" :changed="data" class="no-print" />
      <section v-if="!done && painted" class="stock no-print">
        <h2>
          {{
            looked >= data.count
              ? t('planting.allLooked', { n: looked }, looked)
              : t('planting.list.looked', { n: looked, all: data.count })
          }}
        </h2>
        <ol>
          <li v-for="n in data.count" :key="n">
            <button type="button" class="button plain" @click="check(n)">{{ t('planting.treeN', { n }) }}</button>
            <span :class="{ warn: checkOf(n)?.verdict === 'reject' }">{{
              checkOf(n) ? t(`planting.verdict.${checkOf(n)!.verdict}`) : t('planting.notLooked')
            }}</span>
            <span v-if="markOf(n)" class="quiet">{{ t('planting.mark', { depth: markOf(n) }) }}</span>
          </li>
        </ol>
      </section>
      <PlantingBody
        v-if="painted"
        :figures="figures"
        :kind="data.kind"
        :fruit="data.plant.fruit"
        :errors="errors"
        :flare-typed="false"
        :model-value="choice"
        :flare="flare"
        @update:model-value="measure"
      >
        <template v-if="!done">
          <h2 class="beside">{{ t('drip.beside.title') }}</h2>
          <ObstacleFields :model-value="beside" :errors="errors" @update:model-value="stand" />
        </template>
        <div v-if="!done" class="buttons">
          <RouterLink class="button" :to="{ name: 'planting-edit', params: { id } }">{{
            t('planting.edit')
          }}</RouterLink>
          <button v-lead type="button" class="button plain" :disabled="busy" @click="callOff">
            {{ t('planting.withdraw') }}
          </button>
        </div>
      </PlantingBody>
      <PlantedDialog v-if="!done" v-model:open="planting" :planting="data" @planted="planted" />
      <StockCheck v-if="!done" v-model:open="checking" v-model:number="number" :planting="data" @changed="load" />
    </template>
  </PageFrame>
</template>

<style scoped>
.planting {
  overflow-x: clip;
}
.lead {
  font-size: var(--text-5);
  font-weight: 600;
  line-height: 1.2;
}
.look {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
  margin-bottom: var(--space-4);
}
.amount {
  display: flex;
  align-items: baseline;
  gap: var(--space-3);
}
.time,
.proofline {
  font-size: var(--text-3);
  font-weight: 500;
}
.proofline {
  font-weight: 400;
  margin-top: var(--space-1);
}
.findings {
  display: grid;
  gap: var(--space-1);
  margin: var(--space-2) 0;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
.moves {
  margin-top: var(--space-3);
}
.lift {
  margin-top: var(--space-2);
  font-weight: 500;
}
.caution {
  margin: var(--space-4) 0 var(--space-5);
}
.beside {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
  margin: var(--space-5) 0 var(--space-2);
}
.stock {
  max-width: 1144px;
  margin-bottom: var(--space-6);
}
.stock h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
}
.stock ol {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 0 var(--space-6);
}
.stock li {
  display: flex;
  align-items: center;
  gap: var(--space-2);
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 767px) {
  .lead {
    font-size: var(--text-4);
  }
  .look .button {
    width: 100%;
    min-height: 56px;
  }
}
@media print {
  .page {
    padding: 0;
  }
  h1 {
    font-size: 16pt;
  }
  .where {
    color: inherit;
    text-decoration: none;
  }
  .amount :deep(.big) {
    font-size: 28pt !important;
  }
  .lead {
    font-size: 13pt;
  }
  .time,
  .proofline,
  .lift {
    font-size: 11pt;
    margin-top: 0.5mm;
  }
  .moves :deep(td),
  .moves :deep(th) {
    padding-top: 0.4mm;
    padding-bottom: 0.4mm;
    font-size: 10.5pt;
  }
  .caution {
    margin: 2mm 0;
    font-size: 10pt;
  }
}
</style>
