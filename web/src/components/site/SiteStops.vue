<script setup lang="ts">
/** A site's stops: what setting up and the way there take, as typed and as the log says, and where they are. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import StopForm from '@/components/site/StopForm.vue'
import { useResource } from '@/composables/useResource'
import { fixed } from '@/logic/numbers'

const props = defineProps<{ siteId: string }>()
const { t } = useI18n()
const { data, load } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/stops', { params: { path: { site_id: props.siteId } }, signal })),
  [() => props.siteId],
)
const open = ref<string | null>(null)
const said = ref('')
type Stop = Schema['StopSeenOut']
const setUp = (s: Stop) =>
  s.set_up_min === null || s.set_up_min === undefined ? t('stops.setUpCrew') : t('stops.setUp', { n: s.set_up_min })
const way = (s: Stop) => {
  if (s.way_min !== null && s.way_min !== undefined) return t('stops.way', { n: s.way_min })
  return t(s.latitude_deg === null || s.latitude_deg === undefined ? 'stops.wayUsual' : 'stops.byPlace')
}
function saved(name: string) {
  open.value = null
  said.value = t('stops.saved', { name })
  void load()
}
</script>

<template>
  <section>
    <h2 class="ruled-head apart">{{ t('stops.title') }}</h2>
    <p class="quiet">{{ t(data && !data.length ? 'stops.none' : 'stops.words') }}</p>
    <p v-if="said" role="status">{{ said }}</p>
    <ul>
      <li v-for="s in data ?? []" :key="s.id">
        <div class="line">
          <strong>{{ s.name }}</strong>
          <span>{{ t('stops.trees', { n: s.trees }, s.trees) }}</span>
          <span>{{ setUp(s) }}, {{ way(s) }}</span>
          <span v-if="s.arriving.minutes !== null" class="quiet">{{
            t('stops.log', { n: fixed(s.arriving.minutes, 0), of: s.arriving.of }, s.arriving.of)
          }}</span>
          <button
            v-lead
            type="button"
            class="button plain"
            :aria-label="t('stops.editOf', { name: s.name })"
            :aria-expanded="open === s.id"
            @click="open = open === s.id ? null : s.id"
          >
            {{ t('stops.edit') }}
          </button>
        </div>
        <StopForm v-if="open === s.id" :stop="s" @saved="saved(s.name)" @cancel="open = null" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.quiet {
  padding: var(--space-1) 0;
}
li {
  border-bottom: 1px solid var(--hair);
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 var(--space-5);
  min-height: var(--tap);
  padding: var(--space-1) 0;
}
.line .button {
  margin-left: auto;
}
</style>
