<script setup lang="ts">
/** The ground plan of a site: trees where they stand and how full they are; many picked to act on, rows placed. */
import { computed, nextTick, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import GroundFile from '@/components/ground/GroundFile.vue'
import GroundPaper from '@/components/ground/GroundPaper.vue'
import GroundPicture from '@/components/ground/GroundPicture.vue'
import GroundThings from '@/components/ground/GroundThings.vue'
import GroundTrees from '@/components/ground/GroundTrees.vue'
import PlaceRow from '@/components/ground/PlaceRow.vue'
import ShowThing, { type Thing } from '@/components/ground/ShowThing.vue'
import ChangeMany from '@/components/trees/ChangeMany.vue'
import { useActing } from '@/composables/useActing'
import { dayCount } from '@/composables/useDay'
import { later, onceOpen } from '@/composables/useLater'
import { useLogging } from '@/composables/useLogging'
import { useResource } from '@/composables/useResource'
import { pourOf } from '@/composables/useRound'
import { frameOf, inTurn, spotOf, type Frame, type Ground, type Group, type Spot, type Tree } from '@/logic/ground'
import { text } from '@/units'

const GroundMap = later(() => import('@/components/ground/GroundMap.vue'))
const props = defineProps<{ id: string }>()
const { t } = useI18n()
const path = computed(() => ({ path: { site_id: props.id } }))
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/ground', { params: path.value, signal })),
  [() => props.id, dayCount],
)
const { busy, said, failed, act } = useActing(load)
const { waterAll } = useLogging()
const picked = ref(new Set<string>())
const round = ref(true)
const look = shallowRef<Frame | null>(null)
/** What taps on the map show now: ends of a row, a thing's spot, points of the picture; null = trees are picked. */
const task = shallowRef<{ row: Tree[] } | { thing: Thing } | { picture: true } | null>(null)
const thing = computed(() => (task.value && 'thing' in task.value ? task.value.thing : null))
const spots = ref<Spot[]>([])
const before = ref<Schema['PlaceIO'][] | null>(null)
const pickedTrees = computed(() => (data.value?.trees ?? []).filter((tree) => picked.value.has(tree.id)))
const due = computed(() => (data.value ? inTurn(data.value) : []))
const toWater = computed(() => pickedTrees.value.filter((tree) => tree.turn !== null && tree.next))
const litres = computed(() => toWater.value.reduce((sum, tree) => sum + pourOf(tree.next!).litres, 0))
const put = (ground: Ground) => (data.value = ground)

function toggle(id: string) {
  const next = new Set(picked.value)
  if (!next.delete(id)) next.add(id)
  picked.value = next
}
const parts = ref<HTMLElement | null>(null)
/** The map and what it asks for come into view together. */
function begin(what: typeof task.value) {
  task.value = what
  spots.value = []
  if (what) void nextTick(() => parts.value?.scrollIntoView({ block: 'start', behavior: 'instant' }))
}
function place(trees: Tree[]) {
  before.value = null
  begin({ row: trees })
}
const goTo = (group: Group | null) => (look.value = group ? frameOf(group.trees.map(spotOf), 3) : null)
function keepThing() {
  const { kind, name } = thing.value!
  const params = { path: { site_id: props.id, thing_id: newId() } }
  const body = { kind, name, spots: spots.value }
  void act(async () => {
    put(await persist(() => api.PUT('/api/sites/{site_id}/ground/things/{thing_id}', { params, body })))
    begin(null)
  }, t('ground.thingKept'))
}
function tapped(spot: Spot) {
  const now = task.value
  if (!now) return
  const isPoint = 'thing' in now && now.thing.shape === 'point'
  spots.value = isPoint ? [spot] : [...spots.value, spot]
  if (isPoint) keepThing()
  else if ('row' in now && spots.value.length >= Math.min(2, now.row.length)) {
    const [first, last = null] = spots.value as [Spot, Spot?]
    const body = { trees: now.row.map((tree) => tree.id), first, last }
    void act(
      async () => {
        const placed = await persist(() => api.PUT('/api/sites/{site_id}/ground/row', { params: path.value, body }))
        put(placed.ground)
        before.value = placed.before
      },
      t('ground.placed', { n: now.row.length }, now.row.length),
    ).finally(() => (spots.value = []))
  }
}
const undo = () =>
  act(async () => {
    const body = { places: before.value! }
    put(await persist(() => api.PUT('/api/sites/{site_id}/ground/places', { params: path.value, body })))
    before.value = null
  }, t('ground.undone'))
const removeThing = (id: string) =>
  act(async () => {
    const params = { path: { site_id: props.id, thing_id: id } }
    put(await persist(() => api.DELETE('/api/sites/{site_id}/ground/things/{thing_id}', { params })))
  }, t('ground.thingGone'))
const water = () =>
  act(
    async () => {
      const rows = toWater.value.map((tree) => {
        const pour = pourOf(tree.next!)
        return { id: tree.id, litres: pour.litres, minutes: Math.round(pour.run_min * 10) / 10 }
      })
      const done = await waterAll(rows)
      if (done !== null) picked.value = new Set()
      return done
    },
    t('ground.watered', { n: toWater.value.length, amount: text('volume', litres.value, 0) }, toWater.value.length),
  )
const changing = ref(false)
const changeAsked = onceOpen(changing)
function changed(n: number) {
  said.value = t('trees.manyDone', { n }, n)
  picked.value = new Set()
  void load()
}
const print = () => window.print()
</script>

<template>
  <PageFrame
    class="ground"
    :title="data ? t('ground.titleOf', { site: data.name }) : ''"
    :error="error"
    :loading="loading && !data"
    @retry="load"
  >
    <template #beside>
      <RouterLink class="no-print" :to="{ name: 'site', params: { id } }">{{ t('ground.toSite') }}</RouterLink>
      <button type="button" class="button no-print" @click="print">{{ t('ground.print') }}</button>
    </template>
    <template v-if="data">
      <div ref="parts" class="parts no-print">
        <div class="map">
          <GroundMap
            :ground="data"
            :picked="picked"
            :pins="spots"
            :showing="task !== null"
            :sketch="thing && thing.shape !== 'point' ? thing.shape : null"
            :round="round"
            :look="look"
            @tap="tapped"
            @tree="toggle"
          />
          <p class="legend">
            <span><i class="dot" />{{ t('ground.legend.tree') }}</span>
            <span v-if="data.lines.length"><i class="valve" />{{ t('ground.legend.valve') }}</span>
            <span v-if="data.things.some((one) => one.kind === 'hydrant')"
              ><i class="square hydrant" />{{ t('ground.kind.hydrant') }}</span
            >
            <span v-if="data.things.some((one) => ['gate', 'valve'].includes(one.kind))"
              ><i class="square" />{{ t('ground.legend.gate') }}</span
            >
            <span v-if="round && due.length > 1"><i class="way" />{{ t('ground.round') }}</span>
          </p>
        </div>
        <div class="panel">
          <section v-if="task && 'row' in task">
            <PlaceRow
              :trees="task.row"
              :shown="spots.length"
              :busy="busy"
              :can-undo="before !== null"
              @undo="undo"
              @cancel="begin(null)"
            />
          </section>
          <ShowThing
            v-else-if="thing"
            :thing="thing"
            :spots="spots.length"
            :busy="busy"
            @finish="keepThing"
            @back="spots = spots.slice(0, -1)"
            @leave="begin(null)"
          />
          <section v-else>
            <p class="picked" role="status">
              {{ picked.size ? t('ground.picked', { n: picked.size }, picked.size) : t('ground.pickHint') }}
            </p>
            <div class="buttons">
              <button v-if="toWater.length" type="button" class="button main tall" :disabled="busy" @click="water">
                {{ t('ground.water', { n: toWater.length, amount: text('volume', litres, 0) }, toWater.length) }}
              </button>
              <button
                v-if="due.length && !picked.size"
                type="button"
                class="button tall"
                @click="picked = new Set(due.map((tree) => tree.id))"
              >
                {{ t('ground.pickDue', { n: due.length }, due.length) }}
              </button>
              <template v-if="picked.size">
                <button v-lead type="button" class="button tall" @click="changing = true">
                  {{ t('trees.changeMany', { n: picked.size }, picked.size) }}
                </button>
                <button type="button" class="button tall" @click="place(pickedTrees)">
                  {{ t(picked.size === 1 ? 'ground.placeOne' : 'ground.placePicked') }}
                </button>
                <button type="button" class="button plain" @click="picked = new Set()">{{ t('ground.clear') }}</button>
              </template>
            </div>
          </section>
          <p v-if="said" role="status">{{ said }}</p>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
          <div class="buttons">
            <button type="button" class="button plain" @click="goTo(null)">{{ t('ground.whole') }}</button>
            <label class="check"><input v-model="round" type="checkbox" />{{ t('ground.round') }}</label>
          </div>
          <GroundTrees
            v-model:picked="picked"
            :ground="data"
            @look="goTo"
            @place="(group) => (goTo(group), place(group.trees))"
          />
          <details class="more">
            <summary>{{ t('ground.things') }}</summary>
            <GroundThings :ground="data" :busy="busy" @ask="(what) => begin({ thing: what })" @remove="removeThing" />
          </details>
          <details v-lead class="more">
            <summary>{{ t('ground.picture') }}</summary>
            <GroundPicture
              :ground="data"
              :spots="spots"
              :asking="task !== null && 'picture' in task"
              @ask="(on) => begin(on ? { picture: true } : null)"
              @changed="put"
            />
          </details>
          <details class="more">
            <summary>{{ t('ground.file') }}</summary>
            <GroundFile :site-id="id" @stored="load" />
          </details>
        </div>
      </div>
      <GroundPaper :ground="data" :round="round" />
    </template>
    <ChangeMany v-if="changeAsked" v-model:open="changing" :trees="[...picked]" @changed="changed" />
  </PageFrame>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  gap: var(--space-6);
}
.map {
  position: sticky;
  top: var(--space-4);
  height: min(78vh, 760px);
  align-self: start;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
}
.legend {
  grid-row: 2; /* its place is there before the map has come */
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-4);
  margin-top: var(--space-1);
}
.legend span {
  display: inline-flex;
  align-items: center;
  gap: var(--space-2);
}
.legend i {
  display: inline-block;
  width: 14px;
  height: 14px;
}
.legend .dot {
  border: 1.5px solid var(--ink);
  border-radius: 50%;
  background: linear-gradient(to top, var(--water-fill) 50%, var(--ball) 50%);
}
.legend .valve {
  width: 22px;
  background: var(--ink);
  clip-path: polygon(0 0, 50% 50%, 100% 0, 100% 100%, 50% 50%, 0 100%);
}
.legend .square {
  border: 2px solid var(--ink);
  background: var(--straw);
}
.legend .hydrant {
  background: var(--warning);
}
.legend .way {
  width: 26px;
  height: 0;
  border-top: 2px dotted var(--ink);
}
.picked {
  font-size: var(--text-3);
  font-weight: 600;
}
.tall {
  min-height: 56px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
.check {
  display: inline-flex;
  align-items: center;
  gap: var(--space-2);
  min-height: var(--tap);
}
.check input {
  width: 22px;
  height: 22px;
}
.more summary {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  font-weight: 600;
  cursor: pointer;
}
.more {
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 1023px) {
  .parts {
    grid-template-columns: minmax(0, 1fr);
    gap: var(--space-4);
  }
  .map {
    position: relative;
    top: 0;
    height: 56vh;
  }
}
</style>
