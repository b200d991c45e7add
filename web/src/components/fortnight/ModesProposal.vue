<script setup lang="ts">
/** Modes that the program chooses for trees within litres a week, on request; one tap takes them. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, Problem, take, type Schema } from '@/api/client'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { useActing } from '@/composables/useActing'
import { text } from '@/units'

const props = defineProps<{ wantedL: number | null }>()
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const week = ref<number | null>(props.wantedL)
const invalid = ref(false)
const found = ref<Schema['ModesProposedOut'] | null>(null)
const asking = ref(false)
const asked = ref(0)
const wrong = ref('')
const { busy, said, failed, act } = useActing(async () => {
  found.value = null
  emit('changed')
})
async function ask() {
  if (week.value === null || invalid.value) {
    wrong.value = t('form.required')
    return
  }
  asking.value = true
  wrong.value = ''
  try {
    asked.value = week.value
    found.value = await take(api.POST('/api/modes/proposed', { body: { week_l: asked.value } }))
  } catch (e) {
    wrong.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
  } finally {
    asking.value = false
  }
}
function use() {
  const trees = Object.fromEntries(found.value!.changes.flatMap((c) => c.trees.map((tree) => [tree.id, c.then])))
  const n = changed.value
  void act(
    () => take(api.PUT('/api/modes', { body: { trees, week_l: asked.value } })),
    t('drought.modesSaid', { n }, n),
    { typed: false },
  )
}
/** Less than half of either unit is shown as none: then it takes as much as before. */
const AS_MUCH_L = 1.9
function saves(litres: number) {
  if (Math.abs(litres) < AS_MUCH_L) return t('drought.modeSame')
  return t(litres > 0 ? 'drought.modeSaves' : 'drought.modeTakes', { litres: text('volume', Math.abs(litres), 0) })
}
const changed = computed(() => (found.value?.changes ?? []).reduce((n, c) => n + c.trees.length, 0))
const counted = computed(() =>
  Object.entries(found.value?.modes ?? {})
    .filter(([, n]) => n)
    .map(([name, n]) => t('drought.modeCount', { n, mode: t(`mode.${name}`) }))
    .join(', '),
)
</script>

<template>
  <section class="modes no-print">
    <h2 class="ruled-head large">{{ t('drought.modes') }}</h2>
    <p class="quiet">{{ t('drought.modesWords') }}</p>
    <form novalidate @submit.prevent="ask">
      <QuantityInput
        id="modes-week"
        v-model="week"
        v-model:invalid="invalid"
        dimension="volume"
        :digits="0"
        :label="t('drought.modesWeek')"
        :error="wrong"
      />
      <button class="button" :disabled="asking">{{ t(asking ? 'drought.modesWorking' : 'drought.modesAsk') }}</button>
    </form>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div v-if="found" role="status">
      <p class="sum" :class="{ warn: !found.fits }">
        {{
          t(found.fits ? 'drought.modesFit' : 'drought.modesLeast', {
            litres: text('volume', found.litres, 0),
            now: text('volume', found.now_l, 0),
          })
        }}
        {{ counted }}.
      </p>
      <template v-if="changed">
        <ul>
          <li v-for="c in found.changes" :key="`${c.now}-${c.then}`">
            <p>
              <strong>{{ t('drought.modeChange', { now: t(`mode.${c.now}`), then: t(`mode.${c.then}`) }) }}</strong>:
              {{ t('stops.trees', { n: c.trees.length }, c.trees.length) }},
              {{ saves(c.saves_l) }}
            </p>
            <details>
              <summary class="opens">{{ t('drought.modeWhich') }}</summary>
              <ul class="which">
                <li v-for="tree in c.trees" :key="tree.id">
                  <RouterLink :to="{ name: 'tree-water', params: { id: tree.id } }">{{ tree.tag }}</RouterLink>
                  <span>{{ tree.place }}</span>
                  <span class="quiet">{{ tree.word ? t(`harm.${tree.word}`) : '' }}</span>
                </li>
              </ul>
            </details>
          </li>
        </ul>
        <button type="button" class="button main" :disabled="busy" @click="use">
          {{ t('drought.modesUse', { n: changed }, changed) }}
        </button>
      </template>
      <p v-else>{{ t('drought.modesSame') }}</p>
    </div>
  </section>
</template>

<style scoped>
.modes {
  margin-top: var(--space-7);
}
.quiet {
  padding: var(--space-2) 0;
}
form {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: var(--space-3) var(--space-4);
}
.sum {
  font-size: var(--text-3);
  padding: var(--space-3) 0;
}
li {
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
.which li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 var(--space-4);
  min-height: var(--tap);
  padding: 0;
}
.which a {
  display: inline-flex;
  align-items: center;
  min-height: var(--tap);
}
.main {
  margin-top: var(--space-4);
}
</style>
