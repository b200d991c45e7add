<script setup lang="ts">
/** A season of a tree under every routine, side by side. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { api, take, type Schema } from '@/api/client'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import RoutineRow from '@/components/rehearse/RoutineRow.vue'
import SeasonLines from '@/components/rehearse/SeasonLines.vue'
import TreePick from '@/components/rehearse/TreePick.vue'
import UseRoutine from '@/components/rehearse/UseRoutine.vue'
import { useActing } from '@/composables/useActing'
import { onceOpen } from '@/composables/useLater'
import { useResource } from '@/composables/useResource'
import { useRoutines } from '@/composables/useRoutines'
import { daysBetween, fullDay, listed, longDay } from '@/logic/dates'
import { sent } from '@/logic/routines'
import { sizeName, treeName } from '@/i18n'

const { t } = useI18n()
const route = useRoute()
const router = useRouter()
const { nameOf, takeBack } = useRoutines()
const asked = computed(() => (typeof route.query.tree === 'string' ? route.query.tree : null))
const seasonKey = computed(() => (typeof route.query.season === 'string' ? route.query.season : 'ahead'))
const size = computed(() => (typeof route.query.size === 'string' ? route.query.size : null))
const go = (query: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...query } })

const {
  data: choices,
  error,
  loading,
  load,
} = useResource(
  async (signal) => {
    const tree =
      asked.value ??
      (await take(api.GET('/api/trees', { params: { query: { sort: 'dry', limit: 1 } }, signal }))).trees[0]?.id
    if (!tree) return null
    return take(api.GET('/api/trees/{tree_id}/rehearsal', { params: { path: { tree_id: tree } }, signal }))
  },
  [asked],
)
const { data: sizes } = useResource((signal) => take(api.GET('/api/stock-sizes', { signal })))
const usual = shallowRef<Schema['RoutineOut'][]>([])
watch(
  choices,
  (now) =>
    (usual.value = now ? now.usual.map((r) => (r.name === now.in_force?.routine.name ? now.in_force.routine : r)) : []),
)
const span = computed(() => choices.value?.seasons.find((s) => s.key === seasonKey.value) ?? choices.value?.seasons[0])
const days = computed(() => (span.value ? daysBetween(span.value.first, span.value.last) + 1 : 0))
const {
  data: season,
  error: failedSeason,
  loading: going,
  load: goThrough,
} = useResource(
  async (signal) => {
    const of = choices.value
    if (!of || !span.value || of.wicked || !usual.value.length) return null
    const body = { season: span.value.key, routines: usual.value.map(sent), stock_size_id: size.value }
    return take(api.POST('/api/trees/{tree_id}/rehearsal', { params: { path: { tree_id: of.tree.id } }, body, signal }))
  },
  [usual, span, size],
)
const shown = ref(0)
watch([choices, season], () => {
  const now = choices.value?.in_force?.routine.name
  if (season.value && !season.value.routines[shown.value]) shown.value = 0
  if (now && shown.value === 0 && !touched.value)
    shown.value = Math.max(
      0,
      usual.value.findIndex((r) => r.name === now),
    )
})
const touched = ref(false)
function look(i: number) {
  touched.value = true
  shown.value = i
}
function change(i: number, routine: Schema['RoutineOut']) {
  usual.value = usual.value.map((r, n) => (n === i ? routine : r))
}
const picking = ref(false)
function pick(id: string) {
  picking.value = false
  touched.value = false
  shown.value = 0
  void go({ tree: id })
}
const inUse = (r: Schema['RoutineOut']) => {
  const now = choices.value?.in_force
  if (!now) return r.name === 'balance' ? t('rehearse.nowBalance') : null
  return JSON.stringify(sent(now.routine)) === JSON.stringify(sent(r))
    ? t('rehearse.now', { day: longDay(now.since) })
    : null
}
const using = ref(false)
const usingAsked = onceOpen(using)
const last = shallowRef<Schema['RoutineChoiceOut'] | null>(null)
const { busy, said, failed, act } = useActing(load)
function used(chosen: Schema['RoutineChoiceOut']) {
  last.value = chosen
  void load()
}
function back() {
  void act(() => takeBack(last.value!.choice_id), t('rehearse.takenBack'), { typed: false }).then(
    (done) => done && (last.value = null),
  )
}
const seasonWords = (s: Schema['SpanOut']) =>
  s.key === 'ahead' || s.key === 'past'
    ? t(`rehearse.seasonOf.${s.key}`, { n: daysBetween(s.first, s.last) + 1 })
    : s.key
/** What can be said in a sentence: which of the others would do. */
const would = computed(() => {
  const names = (season.value?.routines ?? [])
    .filter((r) => !r.reasons.length && r.routine.name !== 'balance')
    .map((r) => nameOf(r.routine))
  return names.length ? t('rehearse.would.some', { names: listed(names) }) : t('rehearse.would.none')
})
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
</script>

<template>
  <PageFrame :title="t('rehearse.title')" :error="error" :loading="loading && !choices" :empty="!choices" @retry="load">
    <template #title>
      <h1>
        {{
          choices
            ? t('rehearse.of', { tag: choices.tree.tag, common: treeName(choices.tree.plant.common) })
            : t('rehearse.title')
        }}
      </h1>
    </template>
    <template #beside>
      <button v-if="choices" type="button" class="button plain" :aria-expanded="picking" @click="picking = !picking">
        {{ t('rehearse.another') }}
      </button>
    </template>
    <template #empty>
      <EmptyPlace :title="t('rehearse.noTree')" :words="t('rehearse.noTreeWords')">
        <RouterLink class="button main" :to="{ name: 'tree-new' }">{{ t('rehearse.addTree') }}</RouterLink>
      </EmptyPlace>
    </template>
    <template v-if="choices">
      <TreePick v-if="picking" @pick="pick" />
      <p v-if="choices.wicked">{{ t('rehearse.wicked', { tag: choices.tree.tag }) }}</p>
      <template v-else>
        <div class="asked">
          <fieldset>
            <legend>{{ t('rehearse.season') }}</legend>
            <label v-for="s in choices.seasons" :key="s.key" class="choice" :class="{ on: s.key === span?.key }">
              <input
                type="radio"
                name="season"
                class="visually-hidden"
                :checked="s.key === span?.key"
                @change="go({ season: s.key })"
              />
              {{ seasonWords(s) }}
            </label>
          </fieldset>
          <div class="field">
            <label for="as-size">{{ t('rehearse.as') }}</label>
            <select
              id="as-size"
              class="plain-input"
              :value="size ?? ''"
              @change="go({ size: ($event.target as HTMLSelectElement).value || undefined })"
            >
              <option value="">{{ t('rehearse.asIs') }}</option>
              <option v-for="s in sizes ?? []" :key="s.id" :value="s.id">
                {{ t('rehearse.asSize', { size: sizeName(s.label) }) }}
              </option>
            </select>
          </div>
        </div>
        <p v-if="failedSeason" class="warn" role="alert">
          {{ failedSeason.detail }}
          <button type="button" class="button" @click="goThrough">{{ t('common.retry') }}</button>
        </p>
        <p v-if="going" role="status" class="quiet">{{ t('rehearse.working', { n: days }) }}</p>
        <p v-if="last" role="status" class="said">
          {{ t('rehearse.used', { name: nameOf(last.routine), n: last.trees }, last.trees) }}
          <button type="button" class="button" :disabled="busy" @click="back">{{ t('rehearse.takeBack') }}</button>
        </p>
        <p v-else-if="said" role="status">{{ said }}</p>
        <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
        <div ref="box" :class="{ going }">
          <template v-if="season">
            <p class="would">{{ would }}</p>
            <p class="quiet">
              {{ t('rehearse.from', { first: fullDay(season.season.first), last: fullDay(season.season.last) }) }}.
              <template v-if="season.as_planted">{{ t('rehearse.asPlanted') }}</template>
            </p>
            <SeasonLines
              v-if="width"
              :season="season"
              :shown="Math.min(shown, season.routines.length - 1)"
              :width="Math.max(340, width)"
            />
            <ul class="routines">
              <RoutineRow
                v-for="(row, i) in season.routines"
                :key="row.routine.name"
                :row="row"
                :days="season.dates.length"
                :shown="i === shown"
                :in-use="inUse(row.routine)"
                :busy="busy || going"
                @show="look(i)"
                @use="using = true"
                @change="(r) => change(i, r)"
              />
            </ul>
          </template>
        </div>
        <UseRoutine
          v-if="usingAsked"
          v-model:open="using"
          :choices="choices"
          :routine="usual[shown] ?? null"
          @used="used"
        />
      </template>
    </template>
  </PageFrame>
</template>

<style scoped>
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4) var(--space-7);
  align-items: end;
  margin-bottom: var(--space-4);
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
}
legend {
  padding: 0 0 var(--space-1);
}
.choice {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  padding: 0 var(--space-4);
  border: 1px solid var(--edge);
  cursor: pointer;
}
.choice.on {
  border: 2px solid var(--ink);
  font-weight: 600;
}
.choice:focus-within {
  outline: 3px solid var(--water);
  outline-offset: 2px;
}
.field {
  min-width: 240px;
}
.would {
  font-size: var(--text-3);
  font-weight: 600;
}
.routines {
  border-top: 2px solid var(--ink);
  margin-top: var(--space-5);
}
.going {
  opacity: 0.5;
}
.said {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
  font-weight: 600;
}
</style>
