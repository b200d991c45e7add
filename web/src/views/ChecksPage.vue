<script setup lang="ts">
/** How a tree is: the check-up, what its readings say, what was found before. */
import { useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'
import { api, newId, persist, take, type Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import CheckUp from '@/components/looking/CheckUp.vue'
import OnItsOwn from '@/components/looking/OnItsOwn.vue'
import ThirstSays from '@/components/looking/ThirstSays.vue'
import TreeProbes from '@/components/looking/TreeProbes.vue'
import { useActing } from '@/composables/useActing'
import { dayCount } from '@/composables/useDay'
import { useDevice } from '@/composables/useDevice'
import { useFeeling } from '@/composables/useFeeling'
import { useKeys } from '@/composables/useKeys'
import { later, onceOpen, oncePainted } from '@/composables/useLater'
import { useLogging } from '@/composables/useLogging'
import { useResource } from '@/composables/useResource'
import { actOf } from '@/logic/checkup'
import { fullDay, longDay } from '@/logic/dates'
import { fixed } from '@/logic/numbers'

const FeelDialog = later(() => import('@/components/looking/FeelDialog.vue'))
const EndDialog = later(() => import('@/components/trees/EndDialog.vue'))
const props = defineProps<{ id: string }>()
const { t } = useI18n()
const router = useRouter()
const narrow = useMediaQuery('(max-width: 767px)')
const path = () => ({ tree_id: props.id })
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}/checks', { params: { path: path() }, signal })),
  [() => props.id, dayCount],
  { live: true },
)
const { busy, said, failed, act } = useActing(load)
const { person, ensurePerson } = useDevice()
const { feel } = useLogging()
const { feltWords, answer: feltAnswer } = useFeeling()
const checking = ref(false)
const ending = ref(false)
const endAsked = onceOpen(ending)
const feeling = ref(false)
const feelAsked = onceOpen(feeling)
useKeys((key) => {
  if (key === 'c') checking.value = true
})
const painted = oncePainted(() => data.value)
const standing = computed(() => (data.value?.checkups ?? []).filter((c) => !c.withdrawn))
const due = computed(() => data.value?.look_on && data.value.look_on <= data.value.today)
const doubt = computed(() => {
  const d = data.value?.doubt
  if (!d) return ''
  const words = { n: d.days, off: Math.round(100 * d.dryness_sd) }
  return t(d.looked_on ? 'feel.lookedAgo' : 'feel.never', words, d.days)
})
const causes = (c: Schema['CheckupOut']) =>
  c.causes
    .filter((x) => x.probability >= 0.05)
    .map((x) => t('checks.percent', { cause: t(`checks.cause.${x.cause}`), p: Math.round(100 * x.probability) }))
    .join(', ')
const found = (c: Schema['CheckupOut']) =>
  Object.entries(c.findings)
    .map(([q, a]) => `${t(`checks.q.${q}.title`)} ${t(`checks.a.${q}.${a}`)}`)
    .join(' · ')
async function kept() {
  checking.value = false
  await load()
  said.value = t('checks.kept')
}
const takeBack = (c: Schema['CheckupOut']) =>
  act(
    () => persist(() => api.POST('/api/checkups/{checkup_id}/withdraw', { params: { path: { checkup_id: c.id } } })),
    t('checks.takenBack'),
    { typed: false },
  )
const KEPT = {
  accepted: 'keptAccept',
  refused: 'keptRefuse',
  delivery_good: 'keptGood',
  delivery_mended: 'keptMended',
} as const
function answer(what: Schema['ThirstIn']['answer'], multiplier: number | null) {
  const id = newId()
  void act(
    async () => {
      if (!(await ensurePerson())) return null
      const body = { tree_id: props.id, answer: what, multiplier, person_id: person.value?.id ?? null }
      return persist(() => api.PUT('/api/thirst-answers/{answer_id}', { params: { path: { answer_id: id } }, body }))
    },
    t(`thirst.${KEPT[what]}`, { m: multiplier === null ? '' : fixed(multiplier, 1) }),
    { typed: false },
  )
}
const undo = (id: string) =>
  act(
    () => persist(() => api.POST('/api/thirst-answers/{answer_id}/withdraw', { params: { path: { answer_id: id } } })),
    t('thirst.keptUndo'),
    { typed: false },
  )
const water = () => take(api.GET('/api/trees/{tree_id}/water', { params: { path: path() } }))
/** As on the Water page: what it was taken for, what it is now, what to do. */
const keepFelt: InstanceType<typeof FeelDialog>['$props']['keep'] = async (how, where, what) => {
  let was: Schema['WaterPageOut'] | null = null
  const kept = await act(async () => {
    was = await water()
    return feel(props.id, how, where, what)
  }, '')
  if (kept && was) said.value = feltAnswer((was as Schema['WaterPageOut']).dryness, await water())
  return kept
}
const print = () => window.print()
</script>

<template>
  <StatePanel :error="error" :loading="loading && !data" @retry="load">
    <div v-if="data" class="checks">
      <CheckUp v-if="checking" :tree-id="id" @kept="kept" @left="checking = false" @dead="ending = true" />
      <template v-else>
        <section class="first">
          <p v-if="data.hold_until" class="warn held">{{ t('checks.held', { day: longDay(data.hold_until) }) }}</p>
          <p v-if="data.look_on" :class="{ warn: due }">
            {{ t(due ? 'checks.lookNow' : 'checks.lookOn', { day: longDay(data.look_on) }) }}
          </p>
          <h2>{{ t('checks.title') }}</h2>
          <p class="why">{{ t('checks.why') }}</p>
          <div class="ways no-print">
            <ActButton class="main start" @act="checking = true">{{
              t(standing.length ? 'checks.again' : 'checks.start')
            }}</ActButton>
            <ActButton class="feel" @act="feeling = true">{{ t('feel.it') }}</ActButton>
            <RouterLink
              v-if="data.tree.stop"
              class="button plain"
              :to="{ name: 'walk', query: { site: data.tree.site_id, stop: data.tree.stop, from: id } }"
              >{{ t('walkRow.start') }}</RouterLink
            >
            <button type="button" class="button plain" @click="print">{{ t('checks.print') }}</button>
          </div>
          <p v-if="said" role="status">{{ said }}</p>
          <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
          <p class="quiet">{{ doubt }}</p>
        </section>
        <div class="halves">
          <ThirstSays :page="data" :busy="busy" :width="narrow ? 358 : 540" @answer="answer" @undo="undo" />
          <section>
            <h2>{{ t('checks.done') }}</h2>
            <p v-if="!data.checkups.length" class="quiet">{{ t('checks.none') }}</p>
            <ol>
              <li v-for="c in data.checkups" :key="c.id" :class="{ gone: c.withdrawn }">
                <p class="head">
                  <strong>{{ t(`checks.verdict.${c.verdict}`) }}</strong>
                  <span>{{ t(`checks.actSmall.${actOf(c)}`) }}</span>
                  <span class="quiet">{{
                    t('checks.by', { day: fullDay(c.day), who: c.person ?? t('treePage.someone') })
                  }}</span>
                </p>
                <p class="quiet">{{ causes(c) }}</p>
                <p>{{ found(c) }}</p>
                <p v-if="c.tasks.length">{{ c.tasks.map((x) => t(`task.${x}.title`)).join(', ') }}</p>
                <p v-if="c.note">{{ c.note }}</p>
                <p v-if="c.withdrawn" class="quiet">{{ t('checks.gone') }}</p>
                <button
                  v-else
                  type="button"
                  class="button plain no-print"
                  :disabled="busy"
                  :aria-label="t('checks.takeBackOf', { day: fullDay(c.day) })"
                  @click="takeBack(c)"
                >
                  {{ t('checks.takeBack') }}
                </button>
              </li>
            </ol>
            <template v-if="data.readings.length">
              <h3>{{ t('checks.felt') }}</h3>
              <ul class="felt">
                <li v-for="r in [...data.readings].reverse()" :key="r.id">
                  <span class="narrow">{{ longDay(r.day) }}</span> {{ feltWords(r) }}
                </li>
              </ul>
            </template>
          </section>
        </div>
        <TreeProbes v-if="painted" :tree-id="id" />
        <OnItsOwn v-if="painted" :tree-id="id" />
      </template>
      <FeelDialog
        v-if="feelAsked"
        v-model:open="feeling"
        :title="t('feel.title', { tag: data.tree.tag })"
        :busy="busy"
        :said="said"
        :failed="failed"
        :keep="keepFelt"
      />
      <EndDialog v-if="endAsked" v-model:open="ending" :tree="data.tree" @ended="router.go(0)" />
    </div>
  </StatePanel>
</template>

<style scoped>
.checks {
  margin-top: var(--space-4);
}
.first {
  max-width: 720px;
}
h2 {
  font-size: var(--text-4);
}
h3 {
  font-size: var(--text-2);
  margin-top: var(--space-4);
  border-bottom: 1px solid var(--ink);
}
.held {
  font-size: var(--text-3);
  font-weight: 600;
}
.why {
  font-size: var(--text-2);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  margin: var(--space-3) 0;
}
.start {
  min-height: 64px;
  min-width: 240px;
  font-size: var(--text-3);
}
.feel {
  min-height: 64px;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--space-7);
  max-width: 1144px;
  margin-top: var(--space-5);
}
.halves :deep(h2) {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  padding-bottom: var(--space-1);
  margin-bottom: var(--space-3);
}
.halves ol > li {
  padding: var(--space-2) 0 var(--space-3);
  border-bottom: 1px solid var(--hair);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-4);
  align-items: baseline;
}
.head strong {
  font-size: var(--text-2);
}
.gone {
  opacity: 0.7;
  text-decoration: line-through;
}
.felt li {
  padding: var(--space-1) 0;
}
@media (max-width: 1023px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
    gap: var(--space-5);
  }
}
@media (max-width: 767px) {
  .start {
    width: 100%;
  }
  .feel {
    flex: 1;
  }
}
</style>
