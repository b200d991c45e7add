<script setup lang="ts">
/** A tree that goes by a school's routine: what it pours in the coming days, and where the balance would differ. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, take, type Schema } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { useRoutines } from '@/composables/useRoutines'
import { longDay } from '@/logic/dates'
import { sent } from '@/logic/routines'
import { text } from '@/units'

const props = defineProps<{ treeId: string; routine: Schema['RoutineOut']; today: string; busy: boolean }>()
const emit = defineEmits<{ balance: [send: () => Promise<unknown>] }>()
const { t } = useI18n()
const { nameOf, says, use } = useRoutines()
const BALANCE: Schema['RoutineOut'] = {
  name: 'balance',
  litres: null,
  every_days: null,
  mm: null,
  flow_l_per_h: null,
  hours: null,
  dry_limit: null,
}
const { data } = useResource(
  (signal) =>
    take(
      api.POST('/api/trees/{tree_id}/rehearsal', {
        params: { path: { tree_id: props.treeId } },
        body: { season: 'ahead', routines: [sent(props.routine), sent(BALANCE)] },
        signal,
      }),
    ),
  [() => props.treeId, () => props.routine, () => props.today],
)
const own = computed(() => data.value?.routines[0])
const balance = computed(() => data.value?.routines[1])
const first = computed(() => {
  const at = balance.value?.poured_l.findIndex((l) => l > 0) ?? -1
  return at >= 0 ? data.value!.dates[at]! : null
})
let id = newId()
function back() {
  emit('balance', async () => {
    const done = await use(id, BALANCE, { tree_id: props.treeId })
    if (done) id = newId()
    return done
  })
}
</script>

<template>
  <section class="follows">
    <p>
      <strong>{{ t('rehearse.follows', { name: nameOf(routine), says: says(routine) }) }}</strong>
    </p>
    <p v-if="own && balance">
      {{
        t('rehearse.followsWords', {
          days: data!.dates.length,
          own: text('volume', own.gross_l, 0),
          visits: own.waterings,
          balance: text('volume', balance.gross_l, 0),
          balanceVisits: balance.waterings,
        })
      }}
      {{ first ? t('rehearse.balanceFirst', { day: longDay(first) }) : t('rehearse.balanceNever') }}
    </p>
    <p v-if="own && balance && own.thirsty_days > balance.thirsty_days" class="warn">
      {{ t('rehearse.followsThirst', { n: own.thirsty_days, m: balance.thirsty_days }, own.thirsty_days) }}
    </p>
    <p v-if="own && own.soggy_days" class="warn">
      {{ t('rehearse.followsWet', { n: own.soggy_days }, own.soggy_days) }}
    </p>
    <p class="acts">
      <button v-lead type="button" class="button" :disabled="busy" @click="back">
        {{ t('rehearse.backToBalance') }}
      </button>
      <RouterLink :to="{ name: 'rehearse', query: { tree: treeId } }">{{ t('rehearse.tryOthers') }}</RouterLink>
    </p>
  </section>
</template>

<style scoped>
.follows {
  display: grid;
  gap: var(--space-2);
  border-left: 4px solid var(--water);
  padding-left: var(--space-4);
  margin: var(--space-3) 0;
  max-width: 1144px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3) var(--space-6);
  align-items: center;
}
</style>
