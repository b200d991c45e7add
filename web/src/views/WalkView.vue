<script setup lang="ts">
/** A row felt on one walk: tree after tree, two answers each, the next one by itself. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'
import { api, take, type Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useActing } from '@/composables/useActing'
import { useLogging } from '@/composables/useLogging'
import { useResource } from '@/composables/useResource'

type Felt = NonNullable<Schema['EntryIn']['ball_feel']>
type How = NonNullable<Schema['EntryIn']['how']>
const { t } = useI18n()
const route = useRoute()
const stop = computed(() => String(route.query.stop ?? ''))
const { data, error, loading, load } = useResource(
  (signal) => {
    const query = { site_id: String(route.query.site ?? ''), stop: stop.value, limit: 500 }
    return take(api.GET('/api/trees', { params: { query }, signal }))
  },
  [() => route.query.site, stop],
)
const FELT: Felt[] = ['dry', 'drying', 'moist', 'wet', 'like_clay']
const HANDS: How[] = ['finger', 'trowel', 'rod']
const PLACES = ['ball', 'ring'] as const
const how = ref<How>('finger')
const at = ref(0)
const felt = ref<Record<string, Partial<Record<'ball' | 'ring', Felt>>>>({})
const trees = computed(() => data.value?.trees ?? [])
const tree = computed(() => trees.value[at.value] ?? null)
const answered = computed(() => trees.value.filter((x) => felt.value[x.id]).length)
watch(data, () => {
  const from = trees.value.findIndex((x) => x.id === route.query.from)
  if (from > 0 && at.value === 0) at.value = from
})
const { feel } = useLogging()
const { busy, said, failed, act } = useActing(async () => undefined)
const NEXT_AFTER_MS = 700
async function tell(where: 'ball' | 'ring', what: Felt) {
  const of = tree.value!
  const words = t('walkRow.said', { tag: of.tag, felt: t(`feel.short.${where}`, { felt: t(`feel.${what}`) }) })
  if (!(await act(() => feel(of.id, how.value, where, what), words, { typed: false }))) return
  const own = { ...felt.value[of.id], [where]: what }
  felt.value = { ...felt.value, [of.id]: own }
  if (own.ball && own.ring) setTimeout(() => tree.value?.id === of.id && at.value++, NEXT_AFTER_MS)
}
</script>

<template>
  <PageFrame :title="t('walkRow.title', { stop })" :error="error" :loading="loading && !data" @retry="load">
    <p v-if="!trees.length" class="quiet">{{ t('walkRow.empty') }}</p>
    <section v-else-if="tree" class="tree">
      <p class="quiet">{{ t('walkRow.of', { n: at + 1, all: trees.length }) }}. {{ t('walkRow.why') }}</p>
      <h2>
        <strong>{{ tree.tag }}</strong> {{ tree.place }}
      </h2>
      <section v-for="where in PLACES" :key="where">
        <h3>{{ t(`feel.where.${where}`) }}</h3>
        <p class="quiet">{{ t(`feel.place.${where}`) }}</p>
        <div class="answers" role="group" :aria-label="t(`feel.where.${where}`)">
          <ActButton
            v-for="f in FELT"
            :key="`${tree.id}-${f}`"
            class="answer"
            :class="{ on: felt[tree.id]?.[where] === f }"
            :aria-pressed="felt[tree.id]?.[where] === f"
            :disabled="busy || felt[tree.id]?.[where] !== undefined"
            @act="tell(where, f)"
            >{{ t(`feel.${f}`) }}</ActButton
          >
        </div>
      </section>
      <p class="said" role="status">{{ said }}</p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <div class="ways">
        <ActButton class="main" @act="at++">{{ t('walkRow.next') }}</ActButton>
        <div class="field">
          <label for="walk-how">{{ t('feel.with') }}</label>
          <select id="walk-how" v-model="how">
            <option v-for="h in HANDS" :key="h" :value="h">{{ t(`feel.hand.${h}`) }}</option>
          </select>
        </div>
      </div>
    </section>
    <section v-else>
      <h2>{{ t('walkRow.done', { n: answered }, answered) }}</h2>
      <RouterLink class="button main" :to="{ name: 'trees', query: { q: stop } }">{{ t('walkRow.back') }}</RouterLink>
    </section>
  </PageFrame>
</template>

<style scoped>
.tree {
  max-width: 620px;
}
h2 {
  font-size: var(--text-5);
  font-weight: 500;
  margin-bottom: var(--space-2);
}
h3 {
  font-size: var(--text-3);
  margin-top: var(--space-3);
}
.answers {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: var(--space-3);
  margin-top: var(--space-2);
}
.answer {
  min-height: 60px;
  padding: 0 var(--space-2);
  white-space: normal;
  line-height: 1.2;
}
.answer.on {
  background: var(--ink);
  color: var(--ground);
  opacity: 1;
}
.said {
  min-height: 1.6em;
  margin-top: var(--space-3);
  font-weight: 600;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: end;
  gap: var(--space-3);
}
.ways .button {
  min-height: 60px;
  min-width: 180px;
}
</style>
