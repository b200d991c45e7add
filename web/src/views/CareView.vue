<script setup lang="ts">
/** All dated tasks in one list, the soonest first; a calendar to subscribe to. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import FormField from '@/components/common/FormField.vue'
import TaskRow from '@/components/care/TaskRow.vue'
import { grouped, useCare, type TaskGroup } from '@/composables/useCare'
import { dayCount } from '@/composables/useDay'
import { useResource } from '@/composables/useResource'
import { monthYear } from '@/logic/dates'

const { t } = useI18n()
const route = useRoute()
const router = useRouter()
const site = computed(() => (route.query.site ? String(route.query.site) : ''))
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/care', { params: { query: { site_id: site.value || undefined } }, signal })),
  [site, dayCount],
)
const { busy, failed, said, say, undo } = useCare(load)
const parts = computed(() => {
  const found: { title: string; groups: TaskGroup[] }[] = []
  const today = data.value?.today ?? ''
  for (const g of grouped(data.value?.tasks ?? [])) {
    const title = g.due < today ? t('care.overdue') : g.due === today ? t('care.now') : monthYear(g.due)
    const last = found[found.length - 1]
    if (last?.title === title) last.groups.push(g)
    else found.push({ title, groups: [g] })
  }
  return found
})
const feedOf = (id: string) => `${location.origin}/api/sites/${id}/care.ics`
const copied = ref('')
async function copy(id: string) {
  await navigator.clipboard?.writeText(feedOf(id))
  copied.value = id
}
const feeds = computed(() => (sites.value ?? []).filter((s) => !site.value || s.id === site.value))
function pick(event: Event) {
  const value = (event.target as HTMLSelectElement).value
  void router.replace({ query: value ? { site: value } : {} })
}
</script>

<template>
  <PageFrame
    :title="t('care.title')"
    :error="error"
    :loading="loading && !data"
    :empty="data?.tasks.length === 0"
    @retry="load"
  >
    <template #beside>
      <FormField id="care-site" class="no-print" :label="t('care.site')">
        <select id="care-site" :value="site" @change="pick">
          <option value="">{{ t('care.all') }}</option>
          <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
        </select>
      </FormField>
    </template>
    <template #empty>
      <EmptyPlace :title="t('care.title')" :words="t('care.none')">
        <RouterLink class="button" :to="{ name: 'sites' }">{{ t('nav.sites') }}</RouterLink>
      </EmptyPlace>
    </template>
    <p v-if="said" role="status">
      {{ said.words }} <button type="button" class="button plain" @click="undo">{{ t('care.undo') }}</button>
    </p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div v-if="data" class="two">
      <div>
        <section v-for="p in parts" :key="p.title">
          <h2>{{ p.title }}</h2>
          <ul>
            <TaskRow
              v-for="g in p.groups"
              :key="g.key"
              :group="g"
              :today="data.today"
              :busy="busy"
              :named="!site"
              @say="say"
            />
          </ul>
        </section>
      </div>
      <section class="feed no-print">
        <h2>{{ t('care.feed') }}</h2>
        <p class="quiet">{{ t('care.feedWords') }}</p>
        <ul>
          <li v-for="s in feeds" :key="s.id">
            <strong>{{ s.name }}</strong>
            <code>{{ feedOf(s.id) }}</code>
            <span class="acts">
              <button type="button" class="button" @click="copy(s.id)">
                {{ copied === s.id ? t('care.copied') : t('care.subscribe') }}
              </button>
              <a class="button" :href="`/api/sites/${s.id}/care.ics`" download="care.ics">{{ t('care.file') }}</a>
            </span>
          </li>
        </ul>
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: var(--space-6) var(--space-8);
  align-items: start;
}
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
  margin-top: var(--space-5);
}
.feed li {
  display: grid;
  gap: var(--space-2);
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
}
code {
  font-family: var(--condensed);
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
}
@media (max-width: 1023px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
