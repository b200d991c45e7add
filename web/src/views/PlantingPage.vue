<script setup lang="ts">
/** How a tree was planted, in its hole to scale; what its figures say where nobody wrote it down; what comes when. */
import { useMediaQuery } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, take } from '@/api/client'
import TaskList from '@/components/care/TaskList.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import BallWeight from '@/components/planting/BallWeight.vue'
import HoleDrawing from '@/components/planting/HoleDrawing.vue'
import MovesTable from '@/components/planting/MovesTable.vue'
import PlantingBody from '@/components/planting/PlantingBody.vue'
import TreePictures from '@/components/trees/TreePictures.vue'
import SoilScene from '@/components/water/SoilScene.vue'
import { useActing } from '@/composables/useActing'
import { dayCount } from '@/composables/useDay'
import { usePlanting } from '@/composables/usePlanting'
import { useResource } from '@/composables/useResource'
import { text } from '@/units'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const phone = useMediaQuery('(max-width: 767px)')
const path = () => ({ tree_id: props.id })
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}/planting', { params: { path: path() }, signal })),
  [() => props.id, dayCount],
)
const { figures, choice, flare, typed, errors, fill, measure, over } = usePlanting(async (body, flareOver, signal) => {
  const answer = await take(
    api.POST('/api/trees/{tree_id}/planting/look', {
      params: { path: path() },
      body: { choice: body, flare_below_top_m: flareOver },
      signal,
    }),
  )
  return answer.figures
})
watch(data, (got) => got && fill(got.figures, got.flare_below_top_m))
const stock = computed(() => {
  const tree = data.value!.tree
  return { ...tree, flare_below_top_m: flare.value }
})
const { busy, said, failed, act } = useActing(load)
let plantingId = newId()
async function record() {
  const done = await act(
    () =>
      persist(() =>
        api.PUT('/api/trees/{tree_id}/planting/{planting_id}', {
          params: { path: { ...path(), planting_id: data.value?.planting_id ?? plantingId } },
          body: { choice: choice.value!, flare_below_top_m: flare.value },
        }),
      ),
    t('planting.recorded'),
  )
  if (done) plantingId = newId()
}
/** How it is lifted is no question any more. */
const LIFTS = new Set(['two_people', 'ball_cart', 'machine'])
const raise = computed(() => {
  const m = figures.value?.choice.raise_m ?? 0
  if (m === 0) return t('planting.level')
  return t(m > 0 ? 'planting.over' : 'planting.under', { raise: text('small', Math.abs(m)) })
})
</script>

<template>
  <StatePanel :error="error" :loading="loading && !figures" @retry="load">
    <template v-if="data && figures && choice">
      <SoilScene :above="14" :below="250">
        <template #drawing="{ width, height, ground, phone: small }">
          <HoleDrawing
            :figures="figures"
            :stock="stock"
            :width="width"
            :height="height"
            :ground="ground"
            :phone="small"
          />
        </template>
        <template #act>
          <p class="quiet">{{ t('planting.wasDug') }}</p>
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
            }}; {{ t('planting.flareAt', { where: raise }) }}
          </p>
          <p class="quiet said-how">
            <template v-if="!data.known">{{ t('planting.notKnown') }}</template>
            <template v-else-if="data.batch > 1">{{
              t('planting.known', { n: data.batch - 1 }, data.batch - 1)
            }}</template>
            <template v-else>{{ t('planting.knownAlone') }}</template>
            <template v-if="data.opens_by_it">{{ ' ' }}{{ t('planting.opens') }}</template>
          </p>
          <ul class="findings">
            <li v-for="f in figures.findings.filter((x) => !LIFTS.has(x.code))" :key="f.code" class="warn">
              {{ t(`planting.finding.${f.code}`) }}
            </li>
          </ul>
          <div v-if="!data.known || typed" class="buttons no-print">
            <button
              type="button"
              class="button main"
              :disabled="busy || Object.keys(errors).length > 0"
              @click="record"
            >
              {{ t('planting.record') }}
            </button>
            <button v-if="typed" type="button" class="button" @click="load">{{ t('drip.undoTyped') }}</button>
          </div>
          <p v-if="said" role="status">{{ said }}</p>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
        </template>
        <template #hang>
          <MovesTable class="moves" :figures="figures" />
          <p v-if="figures.hole.ball_weight_kg > 0" class="lift">
            <BallWeight :hole="figures.hole" />
          </p>
        </template>
      </SoilScene>
      <section class="next">
        <h2>{{ t('planting.next') }}</h2>
        <TaskList :tree-id="props.id" :fresh="data" />
      </section>
      <PlantingBody
        :figures="figures"
        :kind="data.tree.kind"
        :fruit="data.tree.plant.fruit"
        :errors="errors"
        :flare-typed="true"
        :model-value="choice"
        :flare="flare"
        @update:model-value="measure"
        @update:flare="over"
      />
      <TreePictures :tree-id="id" occasion="planted" :entry-id="id" brief />
    </template>
  </StatePanel>
</template>

<style scoped>
.amount {
  display: flex;
  align-items: baseline;
  gap: var(--space-3);
}
.lead {
  font-size: var(--text-5);
  font-weight: 600;
}
.time {
  font-size: var(--text-3);
  font-weight: 500;
}
.said-how {
  margin-top: var(--space-2);
  max-width: 56ch;
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
.next {
  margin: var(--space-6) 0 var(--space-6);
  max-width: 1144px;
}
.next h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
}
</style>
