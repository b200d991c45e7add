<script setup lang="ts">
/** Who changed which setting, from what to what. The owner's. */
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { moment } from '@/logic/dates'

const SHOWN = 4
const { t, te } = useI18n()
const { data } = useResource((signal) => take(api.GET('/api/audit', { params: { query: { most: 100 } }, signal })))
const thing = (what: string) => (te(`account.thing.${what}`) ? t(`account.thing.${what}`) : what)
const value = (v: unknown) => (v === null || v === undefined || v === '' ? t('account.nothing') : String(v))
/** A field's name as it is kept, its unit with it: short, and the same in every language. */
const named = (field: string) => field.replaceAll('_', ' ')
function changes(row: Schema['AuditOut']) {
  if (!row.before) return t('account.new')
  if (!row.after) return t('account.removed')
  const all = Object.entries(row.after).map(([field, now]) =>
    t('account.fromTo', { field: named(field), before: value(row.before?.[field]), after: value(now) }),
  )
  return all.length > SHOWN
    ? [...all.slice(0, SHOWN), t('account.andMore', { n: all.length - SHOWN })].join(', ')
    : all.join(', ')
}
</script>

<template>
  <section v-if="data?.length">
    <h2>{{ t('account.audit') }}</h2>
    <ul>
      <li v-for="row in data" :key="row.id">
        <span class="at">{{ moment(row.at) }}</span>
        <span>
          <strong>{{ row.by ?? t('account.theProgram') }}</strong>
          {{ thing(row.what) }} {{ row.name }}
          <small>{{ changes(row) }}</small>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 160px 1fr;
  gap: 0 var(--space-4);
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
.at {
  color: var(--ink-2);
}
small {
  display: block;
  font-size: var(--text-1);
  color: var(--ink-2);
  overflow-wrap: anywhere;
}
@media (max-width: 767px) {
  li {
    grid-template-columns: 1fr;
  }
}
</style>
