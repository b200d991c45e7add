<script setup lang="ts">
/** What a change would do to a site's plan: the litres of the coming days before and after, and the trees it moves. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { longDay } from '@/logic/dates'
import { isUs, text } from '@/units'

const props = defineProps<{ change: Schema['ChangeOut'] }>()
const { t } = useI18n()
const least = computed(() => Math.max(props.change.litres_before, props.change.litres_after, 1))
const percent = computed(() =>
  props.change.litres_before > 0
    ? Math.round((100 * (props.change.litres_after - props.change.litres_before)) / props.change.litres_before)
    : 0,
)
const pour = (p: Schema['NextPourOut'] | null) =>
  p ? `${longDay(p.day)}, ${text('volume', isUs.value ? p.us_l : p.metric_l)}` : t('change.none')
</script>

<template>
  <section class="change">
    <h3>{{ t('change.title', { n: change.days }) }}</h3>
    <p v-if="change.changed === 0 && percent === 0" class="quiet">{{ t('change.nothing') }}</p>
    <template v-else>
      <dl>
        <template v-for="side in ['before', 'after'] as const" :key="side">
          <dt>{{ t(`change.${side}`) }}</dt>
          <dd>
            <span
              class="bar"
              :class="side"
              :style="{ width: `${(100 * change[`litres_${side}`]) / least}%` }"
              aria-hidden="true"
            />
            <strong>{{ text('volume', change[`litres_${side}`], 0) }}</strong>
            {{ t('change.waterings', change[`waterings_${side}`]) }}
          </dd>
        </template>
      </dl>
      <p>
        {{ t('change.trees', { n: change.changed, of: change.trees }, change.changed) }}
        <template v-if="percent !== 0">{{
          t(percent > 0 ? 'change.more' : 'change.less', { n: Math.abs(percent) })
        }}</template>
      </p>
      <table v-if="change.most.length" class="ruled">
        <thead>
          <tr>
            <th>{{ t('trees.tree') }}</th>
            <th>{{ t('change.before') }}</th>
            <th>{{ t('change.after') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in change.most" :key="c.tree_id">
            <td>{{ c.tag }}</td>
            <td>{{ pour(c.before) }}</td>
            <td>{{ pour(c.after) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="change.changed > change.most.length" class="quiet">
        {{ t('change.others', { n: change.changed - change.most.length }) }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.change {
  display: grid;
  gap: var(--space-2);
}
h3 {
  font-size: var(--text-2);
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: var(--space-2) var(--space-3);
  align-items: center;
}
dd {
  margin: 0;
}
.bar {
  display: block;
  height: 16px;
  border: 1px solid var(--ink);
  min-width: 2px;
}
.bar.before {
  background: repeating-linear-gradient(135deg, transparent 0 5px, var(--hair) 5px 6px);
}
.bar.after {
  background: var(--water-fill);
}
</style>
