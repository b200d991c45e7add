<script setup lang="ts">
/** What was brought in, the newest first, and taking one back whole. */
import { computed, onScopeDispose, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, Problem, take, type Schema } from '@/api/client'
import { isUnderWay, watchImport } from '@/composables/useImport'
import { useResource } from '@/composables/useResource'
import { fullDay, moment } from '@/logic/dates'
import { figure } from '@/logic/numbers'

const props = defineProps<{ stationId?: string; zone?: string }>()
const emit = defineEmits<{ undone: [] }>()
const { t } = useI18n()
const query = () => (props.stationId ? { station_id: props.stationId } : {})
const { data, load } = useResource(
  (signal) => take(api.GET('/api/imports', { params: { query: query() }, signal })),
  [() => props.stationId],
)
defineExpose({ load })
const FEW = 5
const all = ref(false)
const shown = computed(() => (all.value ? data.value : data.value?.slice(0, FEW)) ?? [])
const asked = ref('')
const busy = ref('')
const failed = ref('')
let here = true
onScopeDispose(() => (here = false))

function what(row: Schema['ImportBrief']) {
  if (row.kind === 'day') return t('import.day', { day: fullDay(row.name) })
  return row.name || t('import.file')
}
function brought(row: Schema['ImportBrief']) {
  if (row.kind === 'day') return ''
  if (row.kind === 'trees') return t('import.trees', { added: row.new ?? 0, changed: row.changed ?? 0 })
  const span = row.first_day && row.last_day ? { first: fullDay(row.first_day), last: fullDay(row.last_day) } : null
  return t('import.days', { n: figure(row.days ?? 0) }, row.days ?? 0) + (span ? `, ${t('weather.span', span)}` : '')
}
async function undo(row: Schema['ImportBrief']) {
  asked.value = ''
  failed.value = ''
  busy.value = row.id
  try {
    const params = { path: { import_id: row.id } }
    let now = await persist(() => api.POST('/api/imports/{import_id}/undo', { params }))
    await watchImport(
      row.id,
      (one) => (now = one),
      () => here && isUnderWay(now),
    )
    failed.value = now.problem
    await load()
    if (now.state === 'undone') emit('undone')
  } catch (e) {
    failed.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
  } finally {
    busy.value = ''
  }
}
</script>

<template>
  <section v-if="data?.length" class="brought">
    <h2 class="ruled-head">{{ t('import.title') }}</h2>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <ul>
      <li v-for="row in shown" :key="row.id" :class="{ gone: row.state === 'undone' }">
        <div>
          <strong>{{ what(row) }}</strong>
          <span class="quiet">{{ moment(row.stored_at, zone) }}</span>
          <span v-if="brought(row)">{{ brought(row) }}</span>
          <span v-if="row.state === 'undone' && row.undone_at" class="warn">{{
            t('import.undoneOn', { day: moment(row.undone_at, zone) })
          }}</span>
        </div>
        <template v-if="row.state === 'stored'">
          <span v-if="asked === row.id" class="sure">
            {{ t(`import.sure.${row.kind}`) }}
            <button type="button" class="button main" @click="undo(row)">{{ t('import.undoIt') }}</button>
            <button type="button" class="button" @click="asked = ''">{{ t('common.cancel') }}</button>
          </span>
          <button
            v-else
            v-lead
            type="button"
            class="button"
            :disabled="Boolean(busy)"
            :aria-label="t('import.undoOf', { what: what(row) })"
            @click="asked = row.id"
          >
            {{ t(busy === row.id ? 'import.now.undoing' : 'import.undo') }}
          </button>
        </template>
      </li>
    </ul>
    <button v-if="!all && (data?.length ?? 0) > FEW" type="button" class="button plain" @click="all = true">
      {{ t('import.all', { n: data?.length ?? 0 }) }}
    </button>
  </section>
</template>

<style scoped>
.brought {
  display: grid;
  gap: var(--space-3);
  align-content: start;
  width: 100%;
}
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-2) var(--space-4);
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
li > div {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
  min-width: 0;
  overflow-wrap: anywhere;
}
.gone strong {
  text-decoration: line-through;
}
.sure {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
  align-items: center;
}
</style>
