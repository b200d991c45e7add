<script setup lang="ts">
/** A tree's way to stand on its own: how far it is, what proves it, hand-over, and where it is watered then. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, take, type Schema } from '@/api/client'
import QuantityInput from '@/components/common/QuantityInput.vue'
import DeepRing from '@/components/looking/DeepRing.vue'
import { useActing } from '@/composables/useActing'
import { useDevice } from '@/composables/useDevice'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'

type Kind = Schema['OwnActIn']['kind']
const props = defineProps<{ treeId: string }>()
const { t } = useI18n()
const { person, ensurePerson } = useDevice()
const { data, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}/own', { params: { path: { tree_id: props.treeId } }, signal })),
  [() => props.treeId],
)
const { busy, said, failed, act } = useActing(load)
const grew = ref<number | null>(null)
const how = (name: Schema['OwnProof']['name']) =>
  t(`own.how.${name}`, {
    rain: text('rain', data.value!.spell_rain_mm),
    from: text('small', data.value!.moist_from_m, 0),
    to: text('small', data.value!.moist_to_m, 0),
    least: text('small', data.value!.least_growth_m, 0),
  })
const stands = (p: Schema['OwnProof']) => {
  if (!p.proven_on) return t('own.notYet')
  if (p.growth_m !== null) return t('own.grew', { day: fullDay(p.proven_on), length: text('small', p.growth_m, 0) })
  return t(p.by_checkup ? 'own.byCheckup' : 'own.proven', { day: fullDay(p.proven_on) })
}
const lacks = computed(() => new Set(data.value?.missing ?? []))
const mayHand = computed(() => data.value && (data.value.late || !data.value.missing.length))
const sent = new Map<Kind, string>()
function put(kind: Kind, words: string, more: Partial<Schema['OwnActIn']> = {}) {
  const id = sent.get(kind) ?? newId()
  sent.set(kind, id)
  void act(async () => {
    if (!(await ensurePerson())) return null
    const body = {
      tree_id: props.treeId,
      kind,
      note: '',
      fine_and_moist: false,
      person_id: person.value?.id ?? null,
      ...more,
    }
    const done = await persist(() => api.PUT('/api/own-acts/{act_id}', { params: { path: { act_id: id } }, body }))
    sent.delete(kind)
    return done
  }, words)
}
const undo = (id: string) =>
  act(
    () => persist(() => api.POST('/api/own-acts/{act_id}/withdraw', { params: { path: { act_id: id } } })),
    t('own.said.undone'),
    { typed: false },
  )
const prove = (p: Schema['OwnProof']) =>
  put(p.name, t('own.said.proof', { what: t(`own.proof.${p.name}`) }), {
    growth_m: p.name === 'growth' ? grew.value : null,
    fine_and_moist: p.name === 'dry_spell',
  })
</script>

<template>
  <section v-if="data" class="own">
    <h2>{{ t('own.title') }}</h2>
    <p class="share">
      <template v-if="data.handed_on">{{ t('own.is', { day: fullDay(data.handed_on) }) }}</template>
      <template v-else-if="data.establishment === null">{{ t('own.unknown') }}</template>
      <template v-else>
        {{ t('own.share', { share: Math.round(100 * data.establishment) }) }}
        <template v-if="data.ready">{{ t('own.ready') }}</template>
      </template>
    </p>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <template v-if="data.handed_on">
      <div class="deep">
        <DeepRing
          :inner-m="data.inner_m"
          :roots-m="data.roots_m"
          :outer-m="data.outer_m"
          :ball-m="data.ball_m"
          :trunk-m="data.trunk_m"
        />
        <div>
          <h3>{{ t('own.deep') }}</h3>
          <p>
            {{
              t('own.deepWords', {
                inner: text('large', data.inner_m),
                outer: text('large', data.outer_m),
                deep: text('small', data.deep_m, 0),
                rest: data.rest_days,
                latest: data.latest_days,
              })
            }}
          </p>
          <p class="acts">
            <button v-lead type="button" class="button" :disabled="busy" @click="put('back', t('own.said.back'))">
              {{ t('own.takeBack') }}
            </button>
            <button
              v-if="data.handed_act"
              v-lead
              type="button"
              class="button plain"
              :disabled="busy"
              @click="undo(data.handed_act)"
            >
              {{ t('own.undo') }}
            </button>
          </p>
        </div>
      </div>
    </template>
    <template v-else>
      <p v-if="data.late">{{ t('own.late') }}</p>
      <p v-if="data.offered_on">{{ t('own.offered', { day: fullDay(data.offered_on) }) }}</p>
      <button
        v-else-if="!data.late"
        v-lead
        type="button"
        class="button"
        :disabled="busy"
        @click="put('offered', t('own.said.offered'))"
      >
        {{ t('own.offer') }}
      </button>
      <details :open="!data.late && (data.ready || Boolean(data.offered_on))">
        <summary>{{ t('own.lacks', { n: data.missing.length }, data.missing.length) }}</summary>
        <ol>
          <li v-for="p in data.proofs" :key="p.name" :class="{ proven: !lacks.has(p.name) }">
            <div>
              <strong>{{ t(`own.proof.${p.name}`) }}</strong>
              <span class="quiet">{{ stands(p) }}</span>
              <p v-if="lacks.has(p.name)">{{ how(p.name) }}</p>
              <template v-if="p.name === 'dry_spell' && lacks.has(p.name)">
                <p v-if="data.spell">
                  {{ t('own.spell', { n: data.spell.days, rain: text('rain', data.spell.rain_mm) }) }}
                </p>
                <p v-else-if="data.dry_test">{{ t('own.testing', { day: fullDay(data.dry_test.hold_until) }) }}</p>
                <p v-else-if="data.dry_days" class="quiet">{{ t('own.soFar', { n: data.dry_days }, data.dry_days) }}</p>
              </template>
            </div>
            <div class="acts">
              <template v-if="p.name === 'dry_spell' && lacks.has(p.name) && !data.spell">
                <button
                  v-if="data.dry_test"
                  v-lead
                  type="button"
                  class="button"
                  :disabled="busy"
                  @click="undo(data.dry_test.id)"
                >
                  {{ t('own.stopTest') }}
                </button>
                <button
                  v-else
                  v-lead
                  type="button"
                  class="button"
                  :disabled="busy"
                  @click="put('dry_test', t('own.said.dry_test'))"
                >
                  {{ t('own.startTest') }}
                </button>
              </template>
              <template v-else-if="lacks.has(p.name)">
                <QuantityInput
                  v-if="p.name === 'growth'"
                  id="own-growth"
                  v-model="grew"
                  v-lead
                  dimension="small"
                  :label="t('own.grewBy')"
                />
                <button
                  v-lead
                  type="button"
                  class="button"
                  :disabled="busy || (p.name === 'growth' && grew === null)"
                  :aria-label="`${t(p.name === 'dry_spell' ? 'own.moistAndFine' : 'own.isSo')}: ${t(`own.proof.${p.name}`)}`"
                  @click="prove(p)"
                >
                  {{ t(p.name === 'dry_spell' ? 'own.moistAndFine' : 'own.isSo') }}
                </button>
              </template>
              <button
                v-else-if="p.act_id"
                v-lead
                type="button"
                class="button plain"
                :disabled="busy"
                :aria-label="`${t('common.undo')} ${t(`own.proof.${p.name}`)}`"
                @click="undo(p.act_id)"
              >
                {{ t('common.undo') }}
              </button>
            </div>
          </li>
        </ol>
      </details>
      <p v-if="mayHand && data.in_the_way" class="warn">
        {{ t(`own.inTheWay.${data.in_the_way}`) }}
        <RouterLink :to="{ name: 'tree-edit', params: { id: treeId } }">{{ t('own.mend') }}</RouterLink>
      </p>
      <button
        v-else-if="mayHand"
        v-lead
        type="button"
        class="button main"
        :disabled="busy"
        @click="put('handed', t('own.said.handed'))"
      >
        {{ t('own.handOver') }}
      </button>
    </template>
  </section>
</template>

<style scoped>
.own {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
  max-width: 1144px;
  margin-top: var(--space-7);
}
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
  width: 100%;
}
h3 {
  font-size: var(--text-2);
}
.share {
  font-size: var(--text-3);
  font-weight: 600;
}
details {
  width: 100%;
}
summary {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--water);
  text-decoration: underline;
  text-underline-offset: 4px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: var(--space-2) var(--space-5);
  align-items: center;
  border-bottom: 1px solid var(--hair);
  border-left: 4px solid transparent;
  padding: var(--space-2) 0 var(--space-2) var(--space-3);
  min-height: 56px;
}
li.proven {
  border-left-color: var(--water);
}
li strong {
  margin-right: var(--space-3);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: end;
}
.deep {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4) var(--space-7);
}
.deep > div {
  max-width: 520px;
  display: grid;
  gap: var(--space-3);
  align-content: start;
}
@media (max-width: 767px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
