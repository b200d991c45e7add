<script setup lang="ts">
/** A line: one run for all of its trees, the row to scale, what flows where, parts; what feeds it is typed here. */
import { useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, take, type Schema } from '@/api/client'
import LineBox from '@/components/boxes/LineBox.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import DripPlan from '@/components/drip/DripPlan.vue'
import LineGaps from '@/components/drip/LineGaps.vue'
import LineTests from '@/components/drip/LineTests.vue'
import LineTrees from '@/components/drip/LineTrees.vue'
import LaySteps from '@/components/drip/LaySteps.vue'
import PartsList from '@/components/drip/PartsList.vue'
import RowPlan from '@/components/drip/RowPlan.vue'
import RowProfile from '@/components/drip/RowProfile.vue'
import SupplyForm from '@/components/drip/SupplyForm.vue'
import VerdictStrip from '@/components/drip/VerdictStrip.vue'
import { useActing } from '@/composables/useActing'
import { useCatchWords } from '@/composables/useCatchWords'
import { useHow } from '@/composables/useHow'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'

const { time } = useHow()
const { wrong } = useCatchWords()
const props = defineProps<{ id: string }>()
const { t } = useI18n()
const phone = useMediaQuery('(max-width: 767px)')
const anew = ref(false)
const supply = useResource(
  (signal) => take(api.GET('/api/lines/{line_id}/supply', { params: { path: { line_id: props.id } }, signal })),
  [() => props.id],
)
const { data, error, loading, load } = useResource(
  (signal) =>
    take(
      api.GET('/api/lines/{line_id}', {
        params: { path: { line_id: props.id }, query: { anew: anew.value } },
        signal,
      }),
    ),
  [() => props.id, anew],
)
const kinds = computed(() => {
  const groups = new Map<string, { look: Schema['DripLook']; tags: string[] }>()
  for (const tree of data.value?.trees ?? []) {
    const key = JSON.stringify([tree.look.choice, tree.look.shapes.map((s) => [s.kind, s.distance_m, s.bearing_deg])])
    const known = groups.get(key)
    if (known) known.tags.push(tree.tag)
    else groups.set(key, { look: tree.look, tags: [tree.tag] })
  }
  return [...groups.values()]
})
const names = (tags: string[]) =>
  tags.length > 2
    ? t('drip.row.from', { first: tags[0], last: tags[tags.length - 1], n: tags.length })
    : tags.join(', ')
const findings = computed(() => data.value?.flow.findings ?? [])
const worst = computed(() => data.value?.trees[data.value.flow.worst])
const { busy, said, failed, act } = useActing(load)
let batch = newId()
async function accept() {
  const done = await act(
    () =>
      persist(() =>
        api.PUT('/api/lines/{line_id}/layouts/{batch_id}', {
          params: { path: { line_id: props.id, batch_id: batch } },
          body: {},
        }),
      ),
    t('drip.row.kept'),
  )
  if (done) {
    batch = newId()
    anew.value = false
  }
}
const saved = () => Promise.all([supply.load(), load()])
const print = () => window.print()
const closing = ref(false)
const notClosed = ref('')
async function setClosed(closed: boolean) {
  closing.value = true
  notClosed.value = ''
  try {
    await take(api.PUT('/api/lines/{line_id}/closed', { params: { path: { line_id: props.id } }, body: { closed } }))
    await supply.load()
  } catch (e) {
    notClosed.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
  } finally {
    closing.value = false
  }
}
</script>

<template>
  <PageFrame
    class="line"
    :title="supply.data.value?.name"
    :error="supply.error.value"
    :loading="supply.loading.value && !supply.data.value"
    @retry="supply.load"
  >
    <template #beside>
      <RouterLink class="no-print" :to="{ name: 'site', params: { id: supply.data.value!.site_id } }">{{
        data?.site_name ?? t('nav.sites')
      }}</RouterLink>
    </template>
    <StatePanel :error="error" :loading="loading && !data" @retry="load">
      <template v-if="data">
        <section class="act">
          <p class="run">
            {{ t('drip.row.run', { n: Math.round(data.run_min) }) }}
            <span class="rest">{{
              t(
                'drip.row.all',
                {
                  litres: text('volume', data.litres, 0),
                  flow: text('flow', data.flow.flow_l_per_h, 0),
                  n: data.trees.length,
                },
                data.trees.length,
              )
            }}</span>
          </p>
          <p class="figures">
            {{ t('drip.row.even', { n: Math.round(data.flow.uniformity_percent) }) }};
            <template v-if="worst"
              >{{ t('drip.row.worst', { tag: worst.tag, head: text('head', worst.tee_head_m) }) }};</template
            >
            {{ t('drip.row.inlet', { head: text('head', data.flow.inlet_head_m) }) }}
          </p>
          <p v-if="data.strip" class="figures">
            <strong>{{ t('drip.row.dose', { dose: text('dose', data.strip.dose_l_m) }) }}</strong>;
            {{
              t('drip.row.zone', {
                length: text('large', data.strip.length_m, 1),
                width: text('large', data.strip.width_m, 1),
              })
            }}
          </p>
          <p v-if="data.trees[0]" class="figures">
            <template v-if="data.trees[0].look.run.goes.count > 1">{{
              t('drip.row.goes', {
                n: data.trees[0].look.run.goes.count,
                run: time(data.trees[0].look.run.goes.run_min),
                rest: time(data.trees[0].look.run.goes.rest_min),
              })
            }}</template>
            {{ t('drip.thenRod', { depth: text('small', data.trees[0].look.figures.sunk_depth_m, 0) }) }}
          </p>
          <LineTests v-if="!data.anew && data.accepted" :page="data" />
          <ul class="findings">
            <template v-for="one in data.caught?.trees ?? []" :key="one.tree_id">
              <li v-for="words in wrong(one)" :key="words" class="warn">
                <RouterLink :to="{ name: 'tree-drip', params: { id: one.tree_id } }">{{ one.tag }}</RouterLink>:
                {{ words }}
              </li>
            </template>
            <li v-for="f in findings" :key="f.code" class="warn">
              {{ t(`drip.finding.${f.code}`, { n: data.trees.length }) }}
            </li>
            <li v-if="data.uneven" class="warn">
              {{ t('drip.row.uneven', { least: Math.round(data.least_min), most: Math.round(data.run_min) }) }}
            </li>
            <li v-if="data.left_out">{{ t('drip.row.leftOut', data.left_out) }}</li>
            <li v-if="data.assumed.length" class="quiet">
              {{
                t('drip.row.assumed', {
                  what: data.assumed.map((a) => t(`drip.measure.${a}`).toLowerCase()).join(', '),
                })
              }}
            </li>
          </ul>
          <LineGaps v-if="data.gaps.length" :page="data" :line-id="id" @changed="(page) => (data = page)" />
          <div class="buttons no-print">
            <button
              v-if="!data.accepted || data.anew"
              type="button"
              class="button main"
              :disabled="busy"
              @click="accept"
            >
              {{ t('drip.row.accept', data.trees.length) }}
            </button>
            <button v-if="data.accepted && !anew" type="button" class="button" @click="anew = true">
              {{ t('drip.row.anew') }}
            </button>
            <button v-if="anew" type="button" class="button" @click="anew = false">{{ t('drip.row.asLaid') }}</button>
            <button type="button" class="button" @click="print">{{ t('drip.print') }}</button>
          </div>
          <p v-if="said" role="status">{{ said }}</p>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
        </section>
        <LineBox :site-id="supply.data.value!.site_id" :line-id="id" />
        <section class="row" tabindex="0" role="region" :aria-label="t('drip.row.label', { n: data.trees.length })">
          <RowPlan :page="data" :width="phone ? 720 : 1144" />
          <RowProfile :page="data" :width="phone ? 720 : 1144" />
        </section>
        <div class="lower" :class="{ few: data.trees.length <= 20 }">
          <section v-for="k in kinds.slice(0, 2)" :key="k.tags[0]" class="one">
            <h2 class="ruled-head spaced">{{ names(k.tags) }}: {{ t(`drip.pattern.${k.look.choice.pattern}`) }}</h2>
            <DripPlan :look="k.look" :size="phone ? 358 : 440" />
          </section>
          <section class="parts">
            <h2 class="ruled-head spaced">{{ t('drip.row.parts') }}</h2>
            <PartsList :parts="data.parts" />
            <p class="files no-print">
              <a :href="`/api/lines/${id}/drip.csv`">{{ t('drip.file.csv') }}</a>
              <a :href="`/api/lines/${id}/drip.svg`">{{ t('drip.file.svg') }}</a>
              <a :href="`/api/lines/${id}/drip.geojson`">{{ t('drip.file.geojson') }}</a>
            </p>
          </section>
          <section class="laying">
            <h2 class="ruled-head spaced">{{ t('drip.steps.title') }}</h2>
            <LaySteps
              v-for="k in kinds.slice(0, 2)"
              :key="k.tags[0]"
              :look="k.look"
              :lateral="data.lateral"
              :length="data.length_m"
              :hedge="data.hedge"
            />
          </section>
          <section class="trees">
            <h2 class="ruled-head spaced">{{ t('drip.row.trees') }}</h2>
            <LineTrees :trees="data.trees" />
          </section>
          <section v-if="kinds[0]" class="six no-print">
            <h2 class="ruled-head spaced">{{ t('drip.works') }}</h2>
            <VerdictStrip :look="kinds[0].look" />
          </section>
        </div>
        <p class="caution">{{ t('drip.caution') }}</p>
      </template>
    </StatePanel>
    <section v-if="supply.data.value && (data || error)" class="end no-print">
      <p v-if="supply.data.value.closed_on" class="quiet">
        {{ t('sites.closedOn', { day: fullDay(supply.data.value.closed_on) }) }}
      </p>
      <button type="button" class="button plain" :disabled="closing" @click="setClosed(!supply.data.value.closed_on)">
        {{ t(supply.data.value.closed_on ? 'sites.reopen' : 'sites.closeLine') }}
      </button>
      <p v-if="notClosed" class="warn" role="alert">{{ notClosed }}</p>
    </section>
    <SupplyForm
      v-if="supply.data.value && (data || error)"
      :supply="supply.data.value"
      :trees="data?.trees ?? []"
      @saved="saved"
    />
  </PageFrame>
</template>

<style scoped>
.run {
  font-size: var(--text-7);
  font-weight: 600;
  line-height: 1.1;
}
.rest {
  font-size: var(--text-4);
  font-weight: 500;
  margin-left: var(--space-3);
}
.figures {
  font-size: var(--text-2);
  margin-top: var(--space-2);
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
.row {
  margin: var(--space-4) 0 var(--space-6);
  overflow-x: auto;
}
.lower {
  display: grid;
  grid-template-columns: minmax(0, 440px) minmax(0, 1fr);
  gap: var(--space-6) var(--space-7);
  align-items: start;
}
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-5);
}
.files a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
.caution {
  margin: var(--space-5) 0;
}
@media (max-width: 1023px) {
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 767px) {
  .run {
    font-size: var(--text-6);
  }
  .rest {
    display: block;
    margin: var(--space-1) 0 0;
    font-size: var(--text-2);
  }
  .row :deep(svg) {
    width: 720px;
  }
}
@media print {
  .page {
    padding: 0;
  }
  .lower {
    grid-template-columns: 76mm 1fr;
    grid-template-rows: auto auto 1fr;
    gap: 2mm 5mm;
  }
  .lower > * {
    grid-column: 1;
  }
  .lower > .trees {
    grid-column: 2;
    grid-row: 1 / span 3;
  }
  .lower.few > .parts {
    grid-column: 2;
    grid-row: 3;
    align-self: start;
  }
  .lower.few > .trees {
    grid-row: 1 / span 2;
  }
  h2 {
    font-size: 12pt;
    margin-bottom: 1mm;
  }
  .run {
    display: inline;
    font-size: 16pt;
  }
  .rest {
    display: inline;
    font-size: 12pt;
  }
  .row {
    margin: 1mm 0 2mm;
    overflow: visible;
  }
  .row :deep(svg) {
    width: 100%;
    max-height: 20mm;
  }
  .one :deep(figure > svg) {
    max-width: 42mm;
  }
  .one:nth-of-type(2) {
    display: none;
  }
  .lower :deep(td),
  .lower :deep(th),
  .lower :deep(li) {
    padding-top: 0.2mm;
    padding-bottom: 0.2mm;
    font-size: 10pt;
    line-height: 1.1;
  }
  .lower:not(.few) > .trees :deep(td) {
    padding-top: 0;
    padding-bottom: 0;
  }
  .figures,
  .findings,
  .findings li {
    display: inline;
    margin-right: 3mm;
    font-size: 10pt;
    line-height: 1.2;
  }
  .caution {
    margin: 2mm 0 0;
    font-size: 10pt;
  }
}
</style>
