<script setup lang="ts">
/** The register: find a tree, see how each stands and when it wants water next. */
import { refDebounced } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router'
import { api, take, type Schema } from '@/api/client'
import type { paths } from '@/api/schema'
import PageFrame from '@/components/common/PageFrame.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import ChangeMany from '@/components/trees/ChangeMany.vue'
import { dayCount } from '@/composables/useDay'
import { pourOf } from '@/composables/useRound'
import { oncePainted } from '@/composables/useLater'
import { useResource } from '@/composables/useResource'
import { useClock } from '@/composables/useClock'
import { daysBetween, longDay, monthYear } from '@/logic/dates'
import { text } from '@/units'
import { kindsCalled, treeName } from '@/i18n'

const PAGE = 60
const { t } = useI18n()
const route = useRoute()
const router = useRouter()
const { clock } = useClock()
const typed = ref(String(route.query.q ?? ''))
const words = refDebounced(typed, 250)
const site = ref(String(route.query.site ?? ''))
const stop = ref(String(route.query.stop ?? ''))
const state = ref(String(route.query.state ?? ''))
const sort = ref(String(route.query.sort ?? 'place'))
const STATES = ['late', 'due', 'waits', 'ready', 'resting', 'too_wet', 'unknown', 'ended'] as const
const SORTS = ['place', 'tag', 'species', 'planted', 'dry', 'next'] as const
type Query = NonNullable<paths['/api/trees']['get']['parameters']['query']>
/** How many are listed goes with the page's place in the history: coming back finds the same list. */
const shown = ref(Number((history.state as { shown?: number } | null)?.shown ?? PAGE))
watch(shown, (n) => history.replaceState({ ...history.state, shown: n }, ''))
const box = ref<HTMLInputElement | null>(null)
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const { data, error, loading, load } = useResource(
  (signal) =>
    take(
      api.GET('/api/trees', {
        params: {
          query: {
            q: words.value,
            called: kindsCalled(words.value),
            site_id: site.value || undefined,
            stop: stop.value || undefined,
            state: (state.value || undefined) as Query['state'],
            sort: sort.value as Query['sort'],
            limit: shown.value,
          },
        },
        signal,
      }),
    ),
  [words, site, stop, state, sort, shown, dayCount],
)
/** What fits on a screen is painted before the rest of the list. */
const FIRST = 12
const painted = oncePainted(() => data.value)
const listed = computed(() => (painted.value ? (data.value?.trees ?? []) : (data.value?.trees ?? []).slice(0, FIRST)))
const filtering = ref(Boolean(site.value || state.value || sort.value !== 'place'))
const selecting = ref(false)
const picked = ref<string[]>([])
const changing = ref(false)
const said = ref('')
function changed(n: number) {
  said.value = t('trees.manyDone', { n }, n)
  picked.value = []
  selecting.value = false
  void load()
}
// typing may end in a tap on a tree: the search must not call the page back
let leaving = false
onBeforeRouteLeave(() => {
  leaving = true
})
watch([words, site, stop, state, sort], () => {
  shown.value = PAGE
  picked.value = []
  if (leaving) return
  const all = { q: words.value, site: site.value, stop: stop.value, state: state.value }
  const query = Object.fromEntries(Object.entries(all).filter(([, v]) => v))
  void router.replace({ query: sort.value === 'place' ? query : { ...query, sort: sort.value } })
})
onMounted(async () => {
  await nextTick()
  if (route.query.find) box.value?.focus()
})
watch(
  () => route.query.find,
  (find) => find && box.value?.focus(),
)
const searching = computed(() => Boolean(words.value || site.value || stop.value || state.value))
function clear() {
  typed.value = site.value = stop.value = state.value = ''
}
const when = (n: Schema['Next']) =>
  clock.value && daysBetween(clock.value.day, n.day) === 0 ? t('nav.today') : longDay(n.day)
</script>

<template>
  <PageFrame
    class="trees"
    :title="t('trees.title')"
    :error="error"
    :loading="loading && !data"
    :empty="data?.count === 0"
    @retry="load"
  >
    <template #beside>
      <span class="quiet count">{{ data ? t('trees.count', { n: data.count }, data.count) : '\u00a0' }}</span>
      <RouterLink class="file" :to="{ name: 'plants' }">{{ t('plants.title') }}</RouterLink>
      <RouterLink class="file" :to="{ name: 'planting-new' }">{{ t('planting.list.plan') }}</RouterLink>
      <RouterLink class="file" :to="{ name: 'trees-file' }">{{ t('trees.file') }}</RouterLink>
      <button v-lead type="button" class="button plain" @click="((selecting = !selecting), (picked = []))">
        {{ t(selecting ? 'trees.selectDone' : 'trees.select') }}
      </button>
      <RouterLink class="button main" :to="{ name: 'tree-new' }">{{ t('trees.add') }}</RouterLink>
    </template>
    <template #above>
      <div class="tools" :class="{ open: filtering }">
        <div class="field find">
          <label for="find">{{ t('trees.find') }}</label>
          <input id="find" ref="box" v-model="typed" type="search" class="plain-input" autocomplete="off" />
          <button type="button" class="button filter" :aria-expanded="filtering" @click="filtering = !filtering">
            {{ t('trees.filter') }}
          </button>
        </div>
        <div class="field">
          <label for="at-site">{{ t('trees.site') }}</label>
          <select id="at-site" v-model="site">
            <option value="">{{ t('trees.allSites') }}</option>
            <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select>
        </div>
        <div class="field">
          <label for="in-state">{{ t('trees.state') }}</label>
          <select id="in-state" v-model="state">
            <option value="">{{ t('trees.anyState') }}</option>
            <option v-for="s in STATES" :key="s" :value="s">{{ t(`state.${s}`) }}</option>
          </select>
        </div>
        <div class="field">
          <label for="in-order">{{ t('trees.sort') }}</label>
          <select id="in-order" v-model="sort">
            <option v-for="s in SORTS" :key="s" :value="s">{{ t(`trees.sorts.${s}`) }}</option>
          </select>
        </div>
      </div>
      <p v-if="stop" class="stop">
        {{ t('trees.stopFilter', { stop }) }}
        <button type="button" class="button plain" @click="stop = ''">{{ t('trees.clear') }}</button>
      </p>
      <p class="said" role="status">{{ said }}</p>
      <div v-if="selecting && data" class="many">
        <span>{{ t('trees.selected', { n: picked.length }) }}</span>
        <button type="button" class="button" @click="picked = data.trees.map((x) => x.id)">
          {{ t('trees.selectAll') }}
        </button>
        <button type="button" class="button main" :disabled="!picked.length" @click="changing = true">
          {{ t('trees.changeMany', { n: picked.length }, picked.length) }}
        </button>
      </div>
      <ChangeMany v-model:open="changing" :trees="picked" @changed="changed" />
    </template>
    <template #empty>
      <EmptyPlace v-if="searching" :title="t('trees.noneFound')" :words="t('trees.noneFoundWords')">
        <button type="button" class="button" @click="clear">{{ t('trees.clear') }}</button>
      </EmptyPlace>
      <EmptyPlace v-else :title="t('trees.empty')" :words="t('trees.emptyWords')">
        <RouterLink class="button main" :to="{ name: sites?.length ? 'tree-new' : 'site-new' }">{{
          sites?.length ? t('trees.add') : t('sites.add')
        }}</RouterLink>
      </EmptyPlace>
    </template>
    <ul v-if="data" class="list">
      <li v-for="tree in listed" :key="tree.id" :class="{ selecting }">
        <input
          v-if="selecting"
          v-model="picked"
          type="checkbox"
          :value="tree.id"
          :aria-label="t('trees.select') + ' ' + tree.tag"
        />
        <RouterLink :to="{ name: 'tree-water', params: { id: tree.id } }">
          <CutawayDrawing
            v-if="tree.section"
            :section="tree.section"
            size="small"
            :width="44"
            :height="32"
            :ground="12"
          />
          <span v-else class="nothing" />
          <strong class="tag">{{ tree.tag }}</strong>
          <span class="which">
            <span>{{ treeName(tree.common) }}</span>
            <span class="quiet narrow"
              >{{ t(`kind.${tree.kind}`) }} {{ text('small', tree.caliper_m) }},
              {{ t('treePage.planted', { day: monthYear(tree.planted_on) }) }}</span
            >
          </span>
          <span class="where">
            <span>{{ tree.place }}</span>
            <span class="quiet narrow">{{ [tree.stop, tree.site_name].filter(Boolean).join(', ') }}</span>
          </span>
          <span class="dry">
            <template v-if="tree.section && tree.dryness !== null">
              <span :class="{ warn: tree.section.state === 'late' || tree.section.state === 'too_wet' }">{{
                t(`state.${tree.section.state}`)
              }}</span>
              <span class="quiet narrow">{{ t('trees.dry', { share: Math.round(tree.dryness * 100) }) }}</span>
              <span v-for="flag in tree.drip_flags" :key="flag" class="warn flag">{{ t(`flagShort.${flag}`) }}</span>
            </template>
            <span v-else-if="tree.ended_on" class="quiet">{{ t('state.ended') }}, {{ longDay(tree.ended_on) }}</span>
            <span v-else class="warn">{{ t('trees.noPlan') }}</span>
          </span>
          <span class="next">
            <template v-if="tree.next">
              <strong>{{ text('volume', pourOf(tree.next).litres) }}</strong>
              <span>{{ when(tree.next) }}</span>
            </template>
            <span v-else-if="tree.section" class="quiet">{{ t('trees.noneSoon') }}</span>
          </span>
        </RouterLink>
      </li>
    </ul>
    <button v-if="data && data.count > data.trees.length" type="button" class="button more" @click="shown += PAGE">
      {{ t('trees.more') }}
    </button>
  </PageFrame>
</template>

<style scoped>
.count {
  min-width: 8ch;
}
.flag {
  display: block;
}
.page > header .file {
  margin-left: auto;
}
.page > header .file + .file {
  margin-left: 0;
}
.filter {
  display: none;
}
.many {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
  margin-bottom: var(--space-3);
}
.list li.selecting {
  display: grid;
  grid-template-columns: 44px 1fr;
  align-items: center;
}
.list input {
  width: 28px;
  height: 28px;
}
.tools {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 240px 150px 180px;
  gap: var(--space-5);
  margin-bottom: var(--space-4);
}
.list {
  border-top: 2px solid var(--ink);
}
.list li {
  border-bottom: 1px solid var(--hair);
}
.list a {
  display: grid;
  grid-template-columns: 44px 76px minmax(0, 1.1fr) minmax(0, 1.3fr) 130px 170px;
  gap: var(--space-4);
  align-items: center;
  min-height: 60px;
  padding: var(--space-1) 0;
  color: inherit;
  text-decoration: none;
}
.list a:hover {
  background: var(--shade);
}
.nothing {
  width: 44px;
}
.tag {
  font-size: var(--text-3);
}
.which,
.where,
.dry {
  display: grid;
}
.which span,
.where span {
  line-height: 1.2;
  overflow-wrap: anywhere;
}
.next {
  display: flex;
  gap: var(--space-3);
  align-items: baseline;
  justify-content: flex-end;
  text-align: right;
}
.next strong {
  font-size: var(--text-3);
  color: var(--water);
  white-space: nowrap;
}
.more {
  margin-top: var(--space-4);
}
@media (max-width: 1023px) {
  .list a {
    grid-template-columns: 44px 64px minmax(0, 1fr) auto;
    gap: var(--space-2) var(--space-3);
    padding: var(--space-2) 0;
  }
  .which {
    grid-column: 3;
  }
  .where {
    grid-column: 3;
    grid-row: 2;
  }
  .dry {
    grid-column: 4;
    grid-row: 2;
    text-align: right;
  }
  .next {
    grid-column: 4;
    grid-row: 1;
    flex-direction: column;
    gap: 0;
    align-items: flex-end;
  }
  .tools {
    grid-template-columns: 1fr 1fr;
    gap: var(--space-3);
  }
  .tools .field:nth-child(-n + 2) {
    grid-column: 1 / -1;
  }
}
@media (max-width: 767px) {
  .list a {
    grid-template-columns: 44px minmax(0, 1fr) auto;
    grid-template-rows: auto auto auto;
    gap: 0 var(--space-3);
  }
  .list a > :first-child {
    grid-row: 1 / 3;
    align-self: start;
  }
  .tag {
    grid-area: 1 / 2;
  }
  .where {
    grid-area: 2 / 2;
  }
  .where span:first-child {
    white-space: normal;
    line-height: 1.2;
  }
  .which {
    grid-area: 3 / 2 / 4 / 4;
    display: flex;
    flex-wrap: wrap;
    gap: 0 var(--space-2);
    align-items: baseline;
  }
  .next {
    grid-area: 1 / 3;
    flex-direction: row;
    gap: var(--space-2);
  }
  .dry {
    grid-area: 2 / 3;
    align-self: start;
  }
  .where .narrow {
    display: none;
  }
  .find {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0 var(--space-3);
  }
  .find label {
    grid-column: 1 / -1;
  }
  .filter {
    display: block;
  }
  .tools:not(.open) .field:not(.find) {
    display: none;
  }
}
</style>
