<script setup lang="ts">
/** The three modes side by side over the same past days: litres as bars, what each saves and what it costs in growth. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { text } from '@/units'

/** treeId: the comparison of that tree alone. */
const props = defineProps<{ siteId: string; treeId?: string; mode: Schema['SiteIn']['mode']; busy: boolean }>()
defineEmits<{ use: [mode: NonNullable<Schema['SiteIn']['mode']>] }>()
const { t } = useI18n()
const { data, error } = useResource(
  (signal) =>
    take(
      api.GET('/api/sites/{site_id}/modes', {
        params: { path: { site_id: props.siteId }, query: { tree_id: props.treeId } },
        signal,
      }),
    ),
  [() => props.siteId, () => props.treeId, () => props.mode],
)
const most = computed(() => Math.max(1, ...(data.value?.modes ?? []).map((m) => m.poured_l)))
const saves = (m: Schema['ModeOutcomeOut']) => {
  const grow = data.value!.modes.find((x) => x.name === 'grow')!.poured_l
  return grow > 0 ? Math.round(100 * (1 - m.poured_l / grow)) : 0
}
</script>

<template>
  <section>
    <h2 class="ruled-head apart">{{ t('mode.title') }}</h2>
    <p v-if="error" class="quiet">{{ error.detail }}</p>
    <template v-if="data">
      <p class="quiet">
        {{
          treeId
            ? t('mode.wordsTree', { days: data.days })
            : t('mode.words', { days: data.days, trees: data.trees }, data.trees)
        }}
      </p>
      <ul>
        <li v-for="m in data.modes" :key="m.name" :class="{ now: m.name === mode }">
          <div class="name">
            <h3>{{ t(`mode.${m.name}`) }}</h3>
            <p>{{ t(`mode.hint.${m.name}`) }}</p>
            <p v-if="m.name === 'survive' && data.tender.length" class="warn">
              {{
                t('mode.tender', { tags: data.tender.slice(0, 4).join(', ') + (data.tender.length > 4 ? ' …' : '') })
              }}
            </p>
          </div>
          <div class="water">
            <span class="bar" :style="{ width: `${(100 * m.poured_l) / most}%` }" aria-hidden="true" />
            <strong>{{ text('volume', m.poured_l, 0) }}</strong>
            {{ saves(m) > 0 ? t('mode.saves', { share: saves(m) }) : t('mode.poured') }}
          </div>
          <div class="growth">
            <p>{{ t('mode.drinks', { share: Math.round(100 * m.drinks) }) }}</p>
            <p>{{ t('mode.roots', { length: text('small', m.roots_m, 1) }) }}</p>
            <p class="quiet">{{ t('mode.least', { share: Math.round(100 * m.worst_ks) }) }}</p>
          </div>
          <p v-if="m.name === mode" class="going">{{ t('mode.now') }}</p>
          <button
            v-else
            v-lead
            type="button"
            class="button"
            :disabled="busy"
            :aria-label="`${t('mode.use')}: ${t(`mode.${m.name}`)}`"
            @click="$emit('use', m.name)"
          >
            {{ t('mode.use') }}
          </button>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
h3 {
  font-size: var(--text-3);
}
li {
  display: grid;
  grid-template-columns: 1.2fr 1.4fr 1fr 140px;
  gap: var(--space-2) var(--space-6);
  align-items: center;
  padding: var(--space-3) 0 var(--space-3) var(--space-3);
  border-bottom: 1px solid var(--hair);
  border-left: 4px solid transparent;
}
li.now {
  border-left-color: var(--water);
}
.bar {
  display: block;
  height: 22px;
  background: var(--water-fill);
  border: 1px solid var(--ink);
  margin-bottom: var(--space-1);
}
.water strong {
  font-size: var(--text-3);
  font-weight: 600;
}
.going {
  font-weight: 600;
}
@media (max-width: 900px) {
  li {
    grid-template-columns: 1fr;
  }
}
</style>
