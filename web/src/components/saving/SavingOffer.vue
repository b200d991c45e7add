<script setup lang="ts">
/** One change at a site: what it saves, what it takes, when it has paid; its trees, and a tap that puts it on lists. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { useSavingWords } from '@/composables/useSavingWords'
import { show, text, unitLabel } from '@/units'

type Offer = Schema['OfferOut']
const props = defineProps<{ offer: Offer; busy: boolean }>()
const emit = defineEmits<{ task: [ids: string[]] }>()
const { t } = useI18n()
const { span, takes, pays, weekly } = useSavingWords()
const open = computed(() => props.offer.trees.filter((tree) => !tree.tasked))
const facts = computed(() => {
  const o = props.offer
  const found = [weekly(o.minutes_a_week), takes(o.minutes, o.parts, o.cost), pays(o)]
  if (!o.allowed) found.push(t('saving.notAllowed'))
  else if (o.open_days_now !== null && o.open_days_then !== o.open_days_now)
    found.push(t('saving.openDays', { then: o.open_days_then, now: o.open_days_now }))
  return found.filter(Boolean)
})
</script>

<template>
  <li class="offer">
    <div class="figure num">
      <strong>{{ show('volume', offer.litres, 0).value }}</strong>
      <span>{{ t('saving.perWeek', { unit: unitLabel('volume') }) }}</span>
    </div>
    <div class="what">
      <h3>{{ t(`saving.measure.${offer.measure}`) }}</h3>
      <p>
        {{ t('saving.trees', { n: offer.trees.length, site: offer.site }, offer.trees.length) }},
        <span class="quiet">{{ t('saving.seasons', { span: span(offer) }) }}</span>
      </p>
      <ul class="facts">
        <li v-for="f in facts" :key="f" :class="{ warn: !offer.allowed && f === facts[facts.length - 1] }">{{ f }}</li>
      </ul>
    </div>
    <div v-if="offer.measure !== 'other_water'" class="act no-print">
      <button
        v-lead
        type="button"
        class="button"
        :disabled="busy || !open.length || !offer.allowed"
        @click="
          emit(
            'task',
            open.map((tree) => tree.id),
          )
        "
      >
        {{ open.length ? t('saving.task', { n: open.length }, open.length) : t('saving.tasked') }}
      </button>
    </div>
    <details>
      <summary class="opens">{{ t('saving.byTree') }}</summary>
      <table class="ruled">
        <thead>
          <tr>
            <th scope="col">{{ t('saving.tree') }}</th>
            <th scope="col" class="num">{{ t('saving.saves') }}</th>
            <th scope="col" class="num wide">{{ t('saving.takesHead') }}</th>
            <th v-if="offer.measure !== 'other_water'" scope="col" class="no-print">
              <span class="visually-hidden">{{ t('saving.act') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="tree in offer.trees" :key="tree.id">
            <th scope="row">
              <RouterLink :to="{ name: 'tree-water', params: { id: tree.id } }">{{ tree.tag }}</RouterLink>
              <span class="quiet wide">{{ tree.place }}</span>
            </th>
            <td class="num">{{ text('volume', tree.litres, 1) }}</td>
            <td class="num wide">{{ t('saving.min', { n: Math.round(tree.minutes) }) }}</td>
            <td v-if="offer.measure !== 'other_water'" class="no-print end">
              <span v-if="tree.tasked">{{ t('saving.tasked') }}</span>
              <button
                v-else
                v-lead
                type="button"
                class="button plain"
                :disabled="busy || !offer.allowed"
                :aria-label="t('saving.taskOf', { tag: tree.tag })"
                @click="emit('task', [tree.id])"
              >
                {{ t('saving.add') }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </details>
  </li>
</template>

<style scoped>
.offer {
  display: grid;
  grid-template-columns: 120px minmax(0, 1fr) 260px;
  gap: var(--space-2) var(--space-5);
  padding: var(--space-5) 0 var(--space-3);
  border-bottom: 1px solid var(--hair);
}
.figure {
  display: flex;
  flex-direction: column;
}
.figure strong {
  font-size: var(--text-6);
  line-height: 1;
}
h3 {
  font-size: var(--text-4);
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-5);
  padding-top: var(--space-1);
}
.act {
  text-align: right;
}
details {
  grid-column: 2 / -1;
}
table {
  width: min(100%, 760px);
}
.end {
  text-align: right;
}
tbody th {
  border-bottom: 1px solid var(--hair);
  vertical-align: middle;
}
th .quiet {
  margin-left: var(--space-3);
  font-weight: 400;
}
@media (max-width: 1023px) {
  .offer {
    grid-template-columns: 120px minmax(0, 1fr);
  }
  .act,
  details {
    grid-column: 2;
    text-align: left;
  }
}
@media (max-width: 767px) {
  .offer {
    grid-template-columns: minmax(0, 1fr);
  }
  .figure {
    flex-direction: row;
    align-items: baseline;
    gap: var(--space-2);
  }
  .act {
    grid-column: 1;
  }
  .act .button {
    width: 100%;
  }
  details {
    grid-column: 1;
  }
  .wide {
    display: none;
  }
}
</style>
