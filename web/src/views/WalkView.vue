<script setup lang="ts">
/** A row felt on one walk: tree after tree, two answers each, the next one by itself. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import FeelAnswers from '@/components/looking/FeelAnswers.vue'
import HandChoice from '@/components/looking/HandChoice.vue'
import { useActing } from '@/composables/useActing'
import { PLACES, type Felt, type How, type Where } from '@/composables/useFeeling'
import { useLogging } from '@/composables/useLogging'
import { useResource } from '@/composables/useResource'

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
const how = ref<How>('finger')
const at = ref(0)
const felt = ref<Record<string, Partial<Record<Where, Felt>>>>({})
const trees = computed(() => data.value?.trees ?? [])
const tree = computed(() => trees.value[at.value] ?? null)
const on = (where: Where) => felt.value[tree.value?.id ?? '']?.[where]
const answered = computed(() => trees.value.filter((x) => felt.value[x.id]).length)
watch(data, () => {
  const from = trees.value.findIndex((x) => x.id === route.query.from)
  if (from > 0 && at.value === 0) at.value = from
})
const { feel } = useLogging()
const { busy, said, failed, act } = useActing(async () => undefined)
const NEXT_AFTER_MS = 700
async function tell(where: Where, what: Felt) {
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
      <FeelAnswers
        :key="tree.id"
        :places="PLACES"
        :busy="busy"
        :on="on"
        :locked="(where) => on(where) !== undefined"
        @tell="tell"
      />
      <p class="said" role="status">{{ said }}</p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <div class="ways">
        <ActButton class="main" @act="at++">{{ t('walkRow.next') }}</ActButton>
        <HandChoice v-model="how" />
        <RouterLink class="button plain" :to="{ name: 'tree-water', params: { id: tree.id } }">{{
          t('walkRow.putRight', { tag: tree.tag })
        }}</RouterLink>
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
