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
import { useActing } from '@/composables/useActing'
import { grouped, useCare, type TaskGroup } from '@/composables/useCare'
import { dayCount } from '@/composables/useDay'
import { useResource } from '@/composables/useResource'
import { useOutbox } from '@/offline/outbox'
import { overTasks } from '@/offline/overlay'
import { daysBetween, monthYear } from '@/logic/dates'

/** What comes later than this is folded by month. */
const SOON_DAYS = 14

const { t } = useI18n()
const route = useRoute()
const router = useRouter()
const site = computed(() => (route.query.site ? String(route.query.site) : ''))
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/care', { params: { query: { site_id: site.value || undefined } }, signal })),
  [site, dayCount],
)
const { unsent } = useOutbox()
const calendars = useResource((signal) => take(api.GET('/api/calendars', { signal })))
const { busy, failed, said, say, undo } = useCare(load)
const renewed = useActing(calendars.load)
const parts = computed(() => {
  const found: { title: string; later: boolean; groups: TaskGroup[] }[] = []
  const today = data.value?.today ?? ''
  for (const g of grouped(overTasks(data.value?.tasks ?? [], unsent.value))) {
    const away = daysBetween(today, g.due)
    const near = away < 0 ? t('care.overdue') : away === 0 ? t('care.now') : t('care.soon', { n: SOON_DAYS })
    const title = away <= SOON_DAYS ? near : monthYear(g.due)
    const last = found[found.length - 1]
    if (last?.title === title) last.groups.push(g)
    else found.push({ title, later: away > SOON_DAYS, groups: [g] })
  }
  return found
})
const feedOf = (path: string) => location.origin + path
const copied = ref('')
async function copy(path: string) {
  await navigator.clipboard?.writeText(feedOf(path))
  copied.value = path
}
const renewing = ref('')
function renew(siteId: string) {
  if (renewing.value !== siteId) {
    renewing.value = siteId
    return
  }
  renewing.value = ''
  const send = () => take(api.POST('/api/sites/{site_id}/calendar/renew', { params: { path: { site_id: siteId } } }))
  void renewed.act(send, t('care.renewed'), { typed: false })
}
const feeds = computed(() => (calendars.data.value ?? []).filter((c) => !site.value || c.site_id === site.value))
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
      <FormField id="care-site" class="no-print which" :label="t('care.site')">
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
        <component :is="p.later ? 'details' : 'section'" v-for="p in parts" :key="p.title">
          <component :is="p.later ? 'summary' : 'h2'"
            >{{ p.title }} <span v-if="p.later" class="quiet">{{ t('care.tasks', p.groups.length) }}</span></component
          >
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
        </component>
      </div>
      <section class="feed no-print">
        <h2>{{ t('care.feed') }}</h2>
        <p class="quiet">{{ t('care.feedWords') }}</p>
        <p role="status">{{ renewed.said.value || renewed.failed.value }}</p>
        <ul>
          <li v-for="c in feeds" :key="c.site_id">
            <strong>{{ c.site_name }}</strong>
            <code>{{ feedOf(c.path) }}</code>
            <span class="acts">
              <button type="button" class="button" @click="copy(c.path)">
                {{ copied === c.path ? t('care.copied') : t('care.subscribe') }}
              </button>
              <button v-lead type="button" class="button" @click="renew(c.site_id)">
                {{ renewing === c.site_id ? t('care.renewSure') : t('care.renew') }}
              </button>
              <a class="button" :href="`/api/sites/${c.site_id}/care.ics`" download="care.ics">{{ t('care.file') }}</a>
            </span>
          </li>
        </ul>
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
.which {
  width: min(100%, 300px); /* as wide before the sites are known */
}
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
summary {
  font-size: var(--text-3);
  font-weight: 600;
  min-height: var(--tap);
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
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
