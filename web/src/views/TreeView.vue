<script setup lang="ts">
/** A tree: which tree it is, and its pages in working order over one soil line. */
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import PageTabs from '@/components/common/PageTabs.vue'
import HistoryPage from '@/views/HistoryPage.vue'
import EndOfTree from '@/components/trees/EndOfTree.vue'
import StatePanel from '@/components/common/StatePanel.vue'
import { usePageTitle } from '@/composables/usePageTitle'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'
import { treeName } from '@/i18n'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const phone = useMediaQuery('(max-width: 767px)')
const pages = computed(() =>
  (['planting', 'water', 'drip', 'mulch', 'checks', 'history'] as const).map((p) => ({
    key: p,
    words: t(`treePage.${p}`),
    to: { name: `tree-${p}`, params: { id: props.id } },
  })),
)
const route = useRoute()
const page = computed(() => pages.value.find((p) => p.to.name === route.name)?.words)
const { data, error, loading, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}', { params: { path: { tree_id: props.id } }, signal })),
  [() => props.id],
)
usePageTitle(() => [data.value?.tag, page.value].filter(Boolean).join(' · ') || undefined)
</script>

<template>
  <div class="tree">
    <StatePanel :error="error" :loading="loading && !data" @retry="load">
      <template v-if="data">
        <header>
          <div class="which">
            <p class="quiet">
              {{ treeName(data.plant.common) }} <i>{{ data.plant.botanical }}</i>, {{ t(`kind.${data.kind}`) }},
              {{ text('small', data.caliper_m) }},
              {{ t('treePage.planted', { day: fullDay(data.planted_on) }) }}
            </p>
            <div class="name">
              <h1>
                <span class="tag">{{ data.tag }}</span> {{ data.place }}
              </h1>
              <RouterLink v-if="phone && !data.end" class="edit" :to="{ name: 'tree-edit', params: { id } }">{{
                t('treePage.editShort')
              }}</RouterLink>
            </div>
            <p class="quiet where">{{ [data.stop, data.site_name].filter(Boolean).join(', ') }}</p>
            <p v-if="data.note_for_crew" class="note">{{ data.note_for_crew }}</p>
          </div>
          <PageTabs v-if="!data.end" :label="t('treePage.pages')" :pages="pages">
            <RouterLink v-if="!phone" class="edit" :to="{ name: 'tree-edit', params: { id } }">{{
              t('treePage.edit')
            }}</RouterLink>
          </PageTabs>
        </header>
        <EndOfTree v-if="data.end" :tree="data" @changed="load" />
        <ul v-if="!data.end && data.doubts.length" class="doubts">
          <li v-for="d in data.doubts" :key="d" class="warn">{{ t('doubt.title') }} {{ t(`doubt.${d}`) }}</li>
        </ul>
        <RouterView v-if="!data.end" />
        <HistoryPage v-else :id="id" />
      </template>
    </StatePanel>
  </div>
</template>

<style scoped>
.tree {
  padding: var(--space-5) var(--space-6) var(--space-7);
  overflow-x: clip;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: var(--space-6);
  max-width: 1144px;
  min-height: 84px;
  padding-bottom: var(--space-2);
}
h1 {
  font-size: var(--text-5);
  font-weight: 500;
}
.note {
  margin-top: var(--space-2);
  padding: var(--space-1) var(--space-3);
  border-left: 4px solid var(--straw);
  font-weight: 600;
}
.tag {
  font-weight: 600;
  margin-right: var(--space-2);
}
.name {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: var(--space-4);
}
.name .edit {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
.tabs .edit {
  color: var(--water);
  text-decoration: underline;
  font-size: var(--text-1);
}
.doubts {
  margin-bottom: var(--space-2);
}
@media (max-width: 1023px) {
  header {
    flex-direction: column;
    gap: 0;
    min-height: 0;
  }
}
@media (max-width: 767px) {
  .tree {
    padding: var(--space-2) var(--space-4) var(--space-6);
  }
  .where {
    display: none;
  }
  h1 {
    font-size: var(--text-3);
  }
  .tabs {
    justify-content: space-between;
    font-family: var(--condensed);
  }
}
</style>
