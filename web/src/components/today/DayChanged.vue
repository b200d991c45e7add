<script setup lang="ts">
/** The day is not as planned: hands missing, a late start, an early end, a broken pump. The rest is planned again. */
import { computed, reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, take, wantFresh, type Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import FormField from '@/components/common/FormField.vue'
import { Problem } from '@/api/client'

const props = defineProps<{ crews: { id: string; name: string }[]; day: string }>()
const emit = defineEmits<{ planned: [] }>()
const open = defineModel<boolean>('open', { required: true })
const { t } = useI18n()
const MOST_HANDS = 6
const WAIT_S = 60
const LOOK_S = 0.4
const chosen = ref(props.crews[0]?.id ?? '')
const form = reactive({ people_less: 0, starts: '', ends: '', pump_broken: false })
const busy = ref(false)
/** What was said before of the day is there: from then on nothing that is typed is written over. */
const ready = ref(false)
const failed = ref('')
const clock = (minutes: number | null) =>
  minutes === null
    ? ''
    : `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
const minuteOf = (typed: string) => {
  const [h, m] = typed.split(':').map(Number)
  return typed ? h! * 60 + (m ?? 0) : null
}
const path = computed(() => ({ path: { crew_id: chosen.value, day: props.day } }))
watch(
  [open, chosen],
  async () => {
    if (!open.value || !chosen.value) return
    failed.value = ''
    ready.value = false
    try {
      const known = await take(api.GET('/api/crews/{crew_id}/days/{day}', { params: path.value }))
      Object.assign(form, {
        people_less: known.people_less,
        starts: clock(known.starts_min ?? null),
        ends: clock(known.ends_min ?? null),
        pump_broken: known.pump_broken,
      })
    } catch (e) {
      failed.value = e instanceof Problem ? t('error.refused', { detail: e.detail }) : String(e)
    } finally {
      ready.value = true
    }
  },
  { immediate: true },
)
const standing = () => take(api.GET('/api/plan'))
async function keep() {
  busy.value = true
  failed.value = ''
  try {
    const body: Schema['CrewDayIn'] = {
      people_less: form.people_less,
      starts_min: minuteOf(form.starts),
      ends_min: minuteOf(form.ends),
      pump_broken: form.pump_broken,
    }
    const before = (await standing()).plan_id
    /** Another plan, which knows of this: one may have been under way already. */
    const isThere = async () => {
      const now = await standing()
      return now.plan_id !== before && !now.stale
    }
    await persist(() => api.PUT('/api/crews/{crew_id}/days/{day}', { params: path.value, body }))
    await take(api.POST('/api/fortnight/again', { params: { query: { soon: true } } }))
    for (let i = 0; i < WAIT_S / LOOK_S && !(await isThere()); i++) {
      await new Promise((r) => setTimeout(r, 1000 * LOOK_S))
    }
    wantFresh()
    emit('planned')
    open.value = false
  } catch (e) {
    failed.value = e instanceof Problem ? t('error.refused', { detail: e.detail }) : String(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <el-dialog v-model="open" :title="t('today.changed.title')" width="min(480px, 94vw)">
    <form class="fields" @submit.prevent="keep">
      <FormField v-if="crews.length > 1" id="changed-crew" :label="t('today.changed.crew')">
        <select id="changed-crew" v-model="chosen">
          <option v-for="c in crews" :key="c.id" :value="c.id">{{ c.name }}</option>
        </select>
      </FormField>
      <FormField id="changed-hands" :label="t('today.changed.hands')">
        <select id="changed-hands" v-model.number="form.people_less" :disabled="!ready">
          <option v-for="n in MOST_HANDS + 1" :key="n" :value="n - 1">
            {{ n === 1 ? t('today.changed.all') : t('today.changed.less', { n: n - 1 }, n - 1) }}
          </option>
        </select>
      </FormField>
      <FormField id="changed-start" :label="t('today.changed.starts')">
        <input id="changed-start" v-model="form.starts" :disabled="!ready" type="time" class="plain-input" />
      </FormField>
      <FormField id="changed-end" :label="t('today.changed.ends')">
        <input id="changed-end" v-model="form.ends" :disabled="!ready" type="time" class="plain-input" />
      </FormField>
      <label class="check"
        ><input v-model="form.pump_broken" type="checkbox" :disabled="!ready" /> {{ t('today.changed.pump') }}</label
      >
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <div class="acts">
        <ActButton class="main" :disabled="busy" @act="keep">{{
          busy ? t('today.changed.planning') : t('today.changed.keep')
        }}</ActButton>
        <ActButton class="plain" :disabled="busy" @act="open = false">{{ t('common.cancel') }}</ActButton>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: var(--space-4);
}
.check {
  display: flex;
  align-items: center;
  gap: var(--space-3);
  min-height: 56px;
}
.check input {
  width: 24px;
  height: 24px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
}
.acts > * {
  min-height: 56px;
}
</style>
