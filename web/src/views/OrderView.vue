<script setup lang="ts">
/** The order and load list of a day's planting and mulching, water included; when it is done, what came back. */
import { computed, reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { api, newId, persist, Problem, take, type Schema, type Wrong } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import BigFigure from '@/components/common/BigFigure.vue'
import FormField from '@/components/common/FormField.vue'
import { useMeasures } from '@/composables/useMeasures'
import QuantityInput from '@/components/common/QuantityInput.vue'
import WorkingLines from '@/components/common/WorkingLines.vue'
import YardCount from '@/components/order/YardCount.vue'
import { useCarried } from '@/composables/useCarried'
import { useDose } from '@/composables/useDose'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'
import { figure } from '@/logic/numbers'
import { isUs, text } from '@/units'
import { treeName } from '@/i18n'

const { t } = useI18n()
const route = useRoute()
const router = useRouter()
const { inWords, bulk } = useCarried()
const { dose } = useDose()
const q = (name: string) => (route.query[name] ? String(route.query[name]) : '')
const TRUCK = 'june-shade-truck-l'
const truck = ref<number | null>(Number(localStorage.getItem(TRUCK)) || 1500)
watch(truck, (v) => v && localStorage.setItem(TRUCK, String(v)))
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const siteId = computed(() => q('site') || sites.value?.[0]?.id || '')
const stops = computed(() => sites.value?.find((s) => s.id === siteId.value)?.stops ?? [])
const which = computed(() => (q('mulch') === 'all' ? 'all' : 'due'))
const { data, error, loading, load } = useResource(
  async (signal) => {
    if (!siteId.value) return null
    const query = {
      site_id: siteId.value,
      stop: q('stop') || undefined,
      planting_id: q('planting') || undefined,
      tree_id: q('tree') ? q('tree').split(',') : undefined,
      mulch: which.value as 'all' | 'due',
      truck_l: truck.value ?? 1500,
      day: q('day') || undefined,
    }
    return take(api.GET('/api/order', { params: { query }, signal }))
  },
  [siteId, () => route.fullPath, truck],
)
function go(changes: Record<string, string | undefined>) {
  void router.replace({ query: { ...route.query, ...changes } })
}
const scope = computed(() => {
  if (q('planting') && data.value?.plantings[0]) return data.value.plantings[0].stop
  if (q('tree') && data.value?.mulched.length) return data.value.mulched.map((m) => m.tag).join(', ')
  return q('stop') || t('order.site')
})
const empty = computed(() => {
  const d = data.value
  return Boolean(d && !d.materials.length && !d.plantings.length)
})
const loads = (n: number) => t('order.load', n)
const buy = (o: Schema['OrderOut']) =>
  o.buy_l <= 0
    ? t('order.enough')
    : t('order.buyBulk', {
        amount: isUs.value ? `${figure(o.buy_yards, 2)}\u00a0yd³` : `${figure(o.buy_m3, 1)}\u00a0m³`,
      })
const pieces = computed(() => Object.entries(data.value?.pieces ?? {}).map(([k, n]) => t(`order.piece.${k}`, { n }, n)))
const waterParts = computed(() => {
  const w = data.value!.water
  const parts: [string, number][] = [
    ['first', w.first_l],
    ['through', w.through_l],
    ['round', w.round_l],
    ['wet', w.wetting_l],
  ]
  return parts
    .filter(([, litres]) => litres > 0)
    .map(([key, litres]) => t(`order.part.${key}`, { amount: text('volume', litres, 0) }))
    .join(', ')
})
const tanks = computed(() => {
  const d = data.value
  const n = d?.water.tanks
  if (!n || !d?.tank_l) return ''
  return t('order.refill', { n, tank: text('volume', d.tank_l, 0) }, n)
})
/** One material at a time is written down when it is laid. */
interface Job {
  id: string
  bought: number | null
  taken: number | null
  left: number | null
}
const jobs = reactive<Record<string, Job>>({})
watch(data, (d) => {
  for (const m of d?.materials ?? []) {
    jobs[m.material] = { id: newId(), bought: m.job.bought_l, taken: m.job.taken_l, left: m.job.left_l }
  }
})
const said = ref('')
const failed = ref('')
const errors = ref<Record<string, Wrong>>({})
const busy = ref(false)
const { unread } = useMeasures()
async function log(m: Schema['MaterialLineOut']) {
  const job = jobs[m.material]!
  said.value = ''
  failed.value = unread.value
  if (failed.value) return
  busy.value = true
  errors.value = {}
  try {
    await persist(() =>
      api.PUT('/api/mulch-jobs/{job_id}', {
        params: { path: { job_id: job.id } },
        body: {
          tree_ids: m.tree_ids,
          material: m.material as Schema['MulchJobIn']['material'],
          bought_l: job.bought ?? 0,
          taken_l: job.taken ?? 0,
          left_l: job.left ?? 0,
        },
      }),
    )
    await load()
    said.value = t('order.loggedSaid', { n: m.tree_ids.length }, m.tree_ids.length)
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    errors.value = e.fields
    failed.value = e.detail === 'offline' ? t('common.offline') : e.detail
  } finally {
    busy.value = false
  }
}
const print = () => window.print()
</script>

<template>
  <PageFrame
    class="order"
    :title="t('order.title')"
    :error="error"
    :loading="!data && (loading || !sites)"
    :empty="empty"
    @retry="load"
  >
    <template #beside>
      <p v-if="data" class="for">{{ data.site_name }}, {{ scope }}, {{ fullDay(data.today) }}</p>
    </template>
    <template #empty>
      <p class="lead">{{ t('order.nothing') }}</p>
      <p v-if="said" role="status">{{ said }}</p>
    </template>
    <template v-if="data">
      <p v-if="said" role="status" class="said">{{ said }}</p>
      <section class="materials">
        <h2 class="ruled-head spaced">{{ t('order.materials') }}</h2>
        <ul>
          <li v-for="m in data.materials" :key="m.material" class="material">
            <BigFigure dimension="bulk" :value="m.order.loose_l + m.order.spare_l" :size="44" />
            <div>
              <p class="name">
                {{ t(`material.${m.material}`) }}
                <span class="quiet"
                  >{{ t('order.loose', { spare: bulk(m.order.spare_l) }) }}, {{ t('care.trees', m.trees) }}</span
                >
              </p>
              <p>{{ inWords(m.order.carried) }}; {{ loads(m.order.loads) }}</p>
              <p class="quiet">
                <template v-if="m.settled_l !== null">{{ bulk(m.settled_l) }} {{ t('order.settled') }}; </template>
                {{ t('order.yard') }} {{ bulk(m.order.on_hand_l) }};
                <strong>{{ buy(m.order) }}</strong>
              </p>
              <details class="no-print">
                <summary>{{ t('treePage.workingFor') }}</summary>
                <WorkingLines :lines="m.order.working" />
              </details>
            </div>
          </li>
          <li v-if="data.water.all_l > 0" class="material">
            <BigFigure dimension="volume" :value="data.water.all_l" :size="44" :digits="0" />
            <div>
              <p class="name">{{ t('order.water') }}</p>
              <p>
                {{ waterParts }}<template v-if="tanks">; {{ tanks }}</template>
              </p>
            </div>
          </li>
        </ul>
        <ul class="pieces">
          <li v-for="p in pieces" :key="p">{{ p }}</li>
          <li v-if="data.sheets">{{ t('order.sheets', data.sheets) }}</li>
          <li v-if="data.roll_m > 0">{{ t('order.roll', { length: text('large', data.roll_m, 1) }) }}</li>
          <li v-if="data.spoil_loose_l > 0">
            {{ t('order.spoil', { amount: bulk(data.spoil_loose_l), loads: loads(data.spoil_loads) }) }}
          </li>
          <li v-for="d in data.doses" :key="d.aid">{{ t(`planting.aid.${d.aid}`) }}: {{ dose(d) }}</li>
        </ul>
        <button type="button" class="button no-print" @click="print">{{ t('order.print') }}</button>
      </section>
    </template>
    <template #below>
      <YardCount class="no-print" @changed="load" />
      <h2 class="ruled-head spaced scope no-print">{{ t('order.scope') }}</h2>
      <div class="pick no-print">
        <FormField id="o-site" :label="t('form.site')">
          <select
            id="o-site"
            :value="siteId"
            @change="router.replace({ query: { site: ($event.target as HTMLSelectElement).value } })"
          >
            <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select>
        </FormField>
        <FormField id="o-stop" :label="t('order.stop')">
          <select
            id="o-stop"
            :value="q('stop')"
            @change="
              go({
                stop: ($event.target as HTMLSelectElement).value || undefined,
                planting: undefined,
                tree: undefined,
              })
            "
          >
            <option value="">{{ t('order.allStops') }}</option>
            <option v-for="s in stops" :key="s.id" :value="s.name">{{ s.name }}</option>
          </select>
        </FormField>
        <FormField id="o-which" :label="t('order.which')">
          <select id="o-which" :value="which" @change="go({ mulch: ($event.target as HTMLSelectElement).value })">
            <option value="due">{{ t('order.due') }}</option>
            <option value="all">{{ t('order.everything') }}</option>
          </select>
        </FormField>
        <FormField id="o-day" :label="t('order.day')">
          <input
            id="o-day"
            class="plain-input"
            type="date"
            :value="q('day') || data?.today"
            @change="go({ day: ($event.target as HTMLInputElement).value || undefined })"
          />
        </FormField>
        <QuantityInput id="o-truck" v-model="truck" dimension="bulk" :digits="0" :label="t('order.truck')" />
      </div>
      <template v-if="data && !empty">
        <div class="two">
          <section v-if="data.plantings.length">
            <h2 class="ruled-head spaced">{{ t('order.plantings') }}</h2>
            <ul>
              <li v-for="p in data.plantings" :key="p.id">
                <RouterLink :to="{ name: 'planting', params: { id: p.id } }">{{
                  t('order.plantingRow', {
                    n: p.left,
                    common: treeName(p.common).toLowerCase(),
                    depth: text('small', p.hole.depth_m),
                    top: text('small', p.hole.top_diameter_m, 0),
                  })
                }}</RouterLink>
                <span>{{ p.stop }}, {{ fullDay(p.planned_on) }}</span>
                <span v-if="p.rejected" class="warn">{{ t('order.goBack', { n: p.rejected }) }}</span>
                <span class="quiet"
                  >{{ t('planting.water', { litres: text('volume', p.first_each_l) }) }};
                  {{ t('order.mulchNew', { loose: bulk(p.mulch_loose_l) }) }}</span
                >
              </li>
            </ul>
          </section>
          <section v-if="data.mulched.length">
            <h2 class="ruled-head spaced">{{ t('order.mulched') }}</h2>
            <table class="ruled">
              <tbody>
                <tr v-for="r in data.mulched" :key="r.tree_id">
                  <td>
                    <RouterLink :to="{ name: 'tree-mulch', params: { id: r.tree_id } }">{{ r.tag }}</RouterLink>
                  </td>
                  <td>{{ r.place }}</td>
                  <td class="num">{{ bulk(r.loose_l) }}</td>
                </tr>
              </tbody>
            </table>
          </section>
        </div>
        <section v-for="m in data.materials.filter((x) => x.tree_ids.length)" :key="m.material" class="log no-print">
          <h2 class="ruled-head spaced">{{ t('order.log') }}: {{ t(`material.${m.material}`) }}</h2>
          <p class="quiet">{{ t('order.logWords') }}</p>
          <div v-if="jobs[m.material]" class="fields">
            <QuantityInput
              :id="`j-bought-${m.material}`"
              v-model="jobs[m.material]!.bought"
              dimension="bulk"
              :digits="1"
              :label="t('order.bought')"
              :error="errors.bought_l"
            />
            <QuantityInput
              :id="`j-taken-${m.material}`"
              v-model="jobs[m.material]!.taken"
              dimension="bulk"
              :digits="1"
              :label="t('order.taken')"
              :error="errors.taken_l"
            />
            <QuantityInput
              :id="`j-left-${m.material}`"
              v-model="jobs[m.material]!.left"
              dimension="bulk"
              :digits="1"
              :label="t('order.left')"
              :error="errors.left_l"
            />
            <button type="button" class="button main" :disabled="busy" @click="log(m)">
              {{ t('order.logged', m.tree_ids.length) }}
            </button>
          </div>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
        </section>
      </template>
    </template>
  </PageFrame>
</template>

<style scoped>
.for {
  font-size: var(--text-3);
}
.scope {
  margin-top: var(--space-6);
}
.pick {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: var(--space-3) var(--space-5);
  margin-bottom: var(--space-5);
  max-width: 960px;
}
.material {
  display: grid;
  grid-template-columns: 210px minmax(0, 1fr);
  gap: var(--space-1) var(--space-6);
  align-items: center;
  border-bottom: 1px solid var(--hair);
  padding: var(--space-3) 0;
}
summary {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
  color: var(--water);
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
.name {
  font-size: var(--text-3);
  font-weight: 600;
}
.name .quiet {
  font-size: var(--text-1);
  font-weight: 400;
}
.pieces {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-6);
  font-size: var(--text-2);
  font-weight: 500;
  margin: var(--space-3) 0 var(--space-4);
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 420px), 1fr));
  gap: var(--space-6) var(--space-7);
  margin-top: var(--space-6);
  align-items: start;
}
.two li {
  display: grid;
  gap: 2px;
  border-bottom: 1px solid var(--hair);
  padding: var(--space-2) 0;
}
td a,
.two li a {
  display: inline-flex;
  min-height: var(--tap);
  align-items: center;
  font-weight: 600;
}
.log {
  margin-top: var(--space-6);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  gap: var(--space-3) var(--space-5);
  align-items: end;
  margin-top: var(--space-2);
}
.said {
  font-size: var(--text-3);
  font-weight: 600;
  margin-bottom: var(--space-3);
}
.lead {
  font-size: var(--text-5);
  font-weight: 600;
}
.two :deep(table td) {
  padding-top: 0;
  padding-bottom: 0;
}
@media (max-width: 767px) {
  .material {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media print {
  .page {
    padding: 0;
  }
  .material {
    padding: 1.5mm 0;
  }
  td a {
    min-height: 0;
    color: inherit;
    text-decoration: none;
  }
  .two :deep(td) {
    padding: 0.4mm 2mm 0.4mm 0;
    font-size: 10.5pt;
  }
}
</style>
