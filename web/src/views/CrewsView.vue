<script setup lang="ts">
/** The crews: what each has, which sites are theirs. */
import { reactive, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, take, type Schema } from '@/api/client'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import FormField from '@/components/common/FormField.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useActing } from '@/composables/useActing'
import { useClock } from '@/composables/useClock'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'
import { longDay, weekdayName } from '@/logic/dates'
import { figure } from '@/logic/numbers'
import { text } from '@/units'

const { t } = useI18n()
const { may } = useSession()
const { data, error, loading, load } = useResource((signal) => take(api.GET('/api/crews', { signal })))
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const loans = useResource((signal) => take(api.GET('/api/loans', { signal })))
const { busy, said, failed, act } = useActing(async () => {
  await load()
  await loans.load()
})
const { clock, refresh } = useClock()
void (clock.value ? null : refresh())
const gone = ref<Schema['CrewOut'] | null>(null)
async function close(crew: Schema['CrewOut'], withdrawn: boolean) {
  const path = { crew_id: crew.id }
  const words = t(withdrawn ? 'crews.closed' : 'crews.reopened', { name: crew.name })
  const send = () => take(api.PUT('/api/crews/{crew_id}/closed', { params: { path }, body: { withdrawn } }))
  if (await act(send, words, { typed: false })) gone.value = withdrawn ? crew : null
}
const lending = reactive({ site: '', crew: '', day: '' })
function send(site_id: string, day: string, crew_id: string | null, words: string) {
  const params = { path: { site_id, day } }
  const put = () => api.PUT('/api/sites/{site_id}/lent/{day}', { params, body: { crew_id } })
  return act(async () => (await persist(put)) ?? true, words, { typed: false })
}
async function lend() {
  const site = sites.value?.find((s) => s.id === lending.site)
  const crew = data.value?.find((c) => c.id === lending.crew)
  const day = lending.day || clock.value?.day
  if (!site || !crew || !day) return
  await send(site.id, day, crew.id, t('crews.lentSaid', { site: site.name, crew: crew.name, day: longDay(day) }))
}
const takeBack = (loan: Schema['LoanOut']) =>
  send(loan.site_id, loan.day, null, t('crews.lentBack', { site: loan.site, day: longDay(loan.day) }))
const EVERY_DAY = 7
const days = (crew: Schema['CrewOut']) =>
  crew.working_days.length === EVERY_DAY ? t('crews.everyDay') : crew.working_days.map(weekdayName).join(', ')
</script>

<template>
  <PageFrame
    :title="t('crews.title')"
    :error="error"
    :loading="loading && !data"
    :empty="data?.length === 0"
    @retry="load"
  >
    <template #beside>
      <RouterLink class="button main" :to="{ name: 'crew-new' }">{{ t('crews.add') }}</RouterLink>
    </template>
    <template #empty>
      <EmptyPlace :title="t('crews.empty')" :words="t('crews.emptyWords')">
        <RouterLink class="button main" :to="{ name: 'crew-new' }">{{ t('crews.add') }}</RouterLink>
      </EmptyPlace>
    </template>
    <p role="status" class="said">
      {{ said }}
      <button v-if="gone" type="button" class="button plain" :disabled="busy" @click="close(gone, false)">
        {{ t('crews.undo') }}
      </button>
    </p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <ul>
      <li v-for="c in data ?? []" :key="c.id">
        <div class="head">
          <h2>{{ c.name }}</h2>
          <span class="acts">
            <RouterLink
              class="button"
              :to="{ name: 'crew-edit', params: { id: c.id } }"
              :aria-label="t('crews.edit', { name: c.name })"
              >{{ t('common.edit') }}</RouterLink
            >
            <button v-lead type="button" class="button plain" :disabled="busy" @click="close(c, true)">
              {{ t('crews.close') }}
            </button>
          </span>
        </div>
        <p class="large">
          {{ t('crews.has', { n: c.people, hours: figure(c.hours ?? 0, 2), days: days(c) }, c.people!) }}
          {{ c.tank_l ? t('crews.hasTank', { amount: text('volume', c.tank_l, 0) }) : '' }}
          {{ t('crews.hasHoses', { n: c.hoses }, c.hoses!) }}
        </p>
        <p class="quiet">{{ c.sites.length ? t('crews.sites', { sites: c.sites.join(', ') }) : t('crews.noSites') }}</p>
      </li>
    </ul>
    <section v-if="data?.length && (may('lead') || loans.data.value?.length)" class="lend">
      <h2>{{ t('crews.lend') }}</h2>
      <p v-lead class="quiet">{{ t('crews.lendWords') }}</p>
      <form v-lead @submit.prevent="lend">
        <FormField id="lend-site" :label="t('crews.site')">
          <select id="lend-site" v-model="lending.site" class="plain-input" required>
            <option v-for="s in sites ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select>
        </FormField>
        <FormField id="lend-day" :label="t('crews.day')">
          <input
            id="lend-day"
            type="date"
            class="plain-input"
            :value="lending.day || clock?.day"
            :min="clock?.day"
            @change="(e) => (lending.day = (e.target as HTMLInputElement).value)"
          />
        </FormField>
        <FormField id="lend-crew" :label="t('crews.to')">
          <select id="lend-crew" v-model="lending.crew" class="plain-input" required>
            <option v-for="c in data ?? []" :key="c.id" :value="c.id">{{ c.name }}</option>
          </select>
        </FormField>
        <button type="submit" class="button" :disabled="busy">{{ t('crews.lendAct') }}</button>
      </form>
      <ul>
        <li v-for="l in loans.data.value ?? []" :key="l.site_id + l.day" class="loan">
          <span>{{ t('crews.lent', { site: l.site, crew: l.crew, day: longDay(l.day) }) }}</span>
          <button v-lead type="button" class="button plain" :disabled="busy" @click="takeBack(l)">
            {{ t('crews.takeBack') }}
          </button>
        </li>
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
li {
  padding: var(--space-4) 0;
  border-bottom: 1px solid var(--hair);
  display: grid;
  gap: var(--space-1);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-4);
}
.acts {
  display: flex;
  gap: var(--space-3);
}
.lend {
  margin-top: var(--space-7);
}
form {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: var(--space-3) var(--space-5);
  align-items: end;
  max-width: 960px;
  padding: var(--space-3) 0;
}
.loan {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 var(--space-4);
}
h2 {
  font-size: var(--text-4);
}
.large {
  font-size: var(--text-3);
}
</style>
