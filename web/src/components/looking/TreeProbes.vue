<script setup lang="ts">
/** Probes in a tree's ground: what they read, whether that counts, how they are calibrated, what is wrong with them. */
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, take, type Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import ProbeChart from '@/components/looking/ProbeChart.vue'
import ProbeForm from '@/components/looking/ProbeForm.vue'
import { useActing } from '@/composables/useActing'
import { FELT, type Felt } from '@/composables/useFeeling'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'
import { longDay, moment } from '@/logic/dates'
import { fixed, percent } from '@/logic/numbers'

type Probe = Schema['ProbeOut']
const props = defineProps<{ treeId: string }>()
const { t } = useI18n()
const { may } = useSession()
const { data, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}/probes', { params: { path: { tree_id: props.treeId } }, signal })),
  [() => props.treeId],
)
const { busy, said, failed, act } = useActing(load)
const editing = ref<string | null>(null)
const feeling = ref<string | null>(null)
const frame = ref<HTMLElement | null>(null)
const { width } = useElementSize(frame)
const wide = computed(() => Math.max(280, Math.min(720, Math.floor(width.value || 320))))
const path = (probe: Probe) => ({ path: { probe_id: probe.id } })
const ask = (probe: Probe) =>
  act(
    () => take(api.POST('/api/probes/{probe_id}/ask', { params: path(probe) })),
    t('boxes.asked', { name: probe.name }),
  )
const close = (probe: Probe) =>
  act(
    () => take(api.PUT('/api/probes/{probe_id}/closed', { params: path(probe), body: { closed: true } })),
    t('boxes.closed', { name: probe.name }),
  )
async function point(probe: Probe, kind: Schema['ProbePointIn']['kind'], feel: Felt | null) {
  const body = { kind, feel }
  const kept = await act(
    () => persist(() => api.PUT('/api/probes/{probe_id}/points', { params: path(probe), body })),
    t('probes.pointKept'),
  )
  if (kept) feeling.value = null
}
const forget = (probe: Probe, kind: Schema['ProbePointIn']['kind']) =>
  act(
    () =>
      persist(() =>
        api.DELETE('/api/probes/{probe_id}/points/{kind}', { params: { path: { probe_id: probe.id, kind } } }),
      ),
    t('probes.pointGone'),
  )
function saved() {
  editing.value = null
  void load()
}
const last = (probe: Probe) => probe.nights.filter((night) => night.theta_m3_m3 !== null).at(-1)
function reads(probe: Probe): string {
  const night = last(probe)
  if (!night || probe.wetness === null) return t('probes.noneYet')
  const words = { day: longDay(night.day), theta: fixed(night.theta_m3_m3!, 2), wet: percent(probe.wetness) }
  return t(`probes.reads.${probe.store}`, words)
}
const night = (probe: Probe) => probe.nights.at(-1)
const shows = computed(() => Boolean(data.value?.length || may('owner')))
</script>

<template>
  <section v-if="shows" id="probes" ref="frame">
    <h2>{{ t('probes.title') }}</h2>
    <article v-for="probe in data" :key="probe.id">
      <h3>{{ t('probes.named', { name: probe.name, where: t(`probes.where.${probe.store}`) }) }}</h3>
      <p class="reads">{{ reads(probe) }}</p>
      <p v-if="!probe.points.length" class="warn">{{ t('probes.notCounted') }}</p>
      <p v-if="probe.silent_since" class="warn">
        {{ t('probes.silent', { since: moment(probe.silent_since, probe.timezone) }) }}
      </p>
      <p v-else class="quiet">
        {{
          probe.answered_at
            ? t('boxes.answers', { at: moment(probe.answered_at, probe.timezone) })
            : t('boxes.notAsked')
        }}<template v-if="probe.battery_percent !== null"
          >; {{ t('probes.battery', { percent: percent(probe.battery_percent / 100) }) }}</template
        >
      </p>
      <p v-if="probe.trouble === 'battery'" class="warn">{{ t('probes.batteryLow') }}</p>
      <p v-if="probe.said" class="warn">{{ probe.said }}</p>
      <p v-if="probe.clock_is_off" class="warn">
        {{ t('probes.clock', { minutes: fixed(Math.abs(probe.clock_off_min), 0) }) }}
      </p>
      <p v-if="night(probe)?.why" class="warn">
        {{ longDay(night(probe)!.day) }}: {{ t(`probes.why.${night(probe)!.why}`) }}
      </p>
      <ProbeChart v-if="probe.hours.length" :probe="probe" :width="wide" />
      <h4>{{ t('probes.known') }}</h4>
      <p v-if="!probe.points.length" class="quiet">{{ t('probes.how') }}</p>
      <ul class="points">
        <li v-for="one in probe.points" :key="one.kind">
          <span>{{
            t(`probes.point.${one.kind}`, {
              at: moment(one.at, probe.timezone),
              read: fixed(one.read_m3_m3, 2),
              true: fixed(one.true_m3_m3, 2),
              feel: one.feel ? t(`feel.${one.feel}`) : '',
            })
          }}</span>
          <button type="button" class="button plain no-print" :disabled="busy" @click="forget(probe, one.kind)">
            {{ t(`probes.forget.${one.kind}`) }}
          </button>
        </li>
      </ul>
      <div class="buttons no-print">
        <ActButton class="tall" :disabled="busy" @act="point(probe, 'wet', null)">{{ t('probes.soaked') }}</ActButton>
        <ActButton
          class="tall"
          :aria-expanded="feeling === probe.id"
          @act="feeling = feeling === probe.id ? null : probe.id"
          >{{ t('probes.felt') }}</ActButton
        >
      </div>
      <div v-if="feeling === probe.id" class="buttons" role="group" :aria-label="t('probes.felt')">
        <ActButton v-for="f in FELT" :key="f" class="tall" :disabled="busy" @act="point(probe, 'felt', f)">{{
          t(`feel.${f}`)
        }}</ActButton>
      </div>
      <div class="buttons no-print">
        <button type="button" class="button" :disabled="busy" @click="ask(probe)">{{ t('boxes.ask') }}</button>
        <template v-if="may('owner')">
          <button type="button" class="button plain" @click="editing = probe.id">{{ t('probes.edit') }}</button>
          <button type="button" class="button plain" :disabled="busy" @click="close(probe)">
            {{ t('boxes.close') }}
          </button>
        </template>
      </div>
      <ProbeForm v-if="editing === probe.id" :tree-id="treeId" :probe="probe" @saved="saved" @cancel="editing = null" />
    </article>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <template v-if="may('owner')">
      <ProbeForm v-if="editing === ''" :tree-id="treeId" :probe="null" @saved="saved" @cancel="editing = null" />
      <button v-else type="button" class="button plain no-print" @click="editing = ''">{{ t('probes.add') }}</button>
    </template>
  </section>
</template>

<style scoped>
section {
  max-width: 1144px;
  margin-top: var(--space-6);
}
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
  margin-bottom: var(--space-3);
}
h3 {
  font-size: var(--text-2);
}
h4 {
  font-size: var(--text-1);
  margin-top: var(--space-3);
}
.reads {
  font-size: var(--text-3);
  font-weight: 600;
}
article {
  margin-bottom: var(--space-5);
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
.points li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 var(--space-3);
}
.tall {
  min-height: 56px;
}
</style>
