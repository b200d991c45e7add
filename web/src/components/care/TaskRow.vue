<script setup lang="ts">
/** One task, of one tree or of several at a stop: when, what, why one tap away; done, moved or not needed. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import FormField from '@/components/common/FormField.vue'
import { subjectOf, type Task, type TaskGroup } from '@/composables/useCare'
import { daysBetween, fullDay, longDay } from '@/logic/dates'

const props = defineProps<{ group: TaskGroup; today: string; busy: boolean; oneTree?: boolean; named?: boolean }>()
const emit = defineEmits<{
  say: [tasks: Task[], act: 'done' | 'moved' | 'dismissed', day: string | null, reason: string]
}>()
const { t } = useI18n()
const open = ref(false)
const asking = ref<'moved' | 'dismissed' | null>(null)
const day = ref('')
const reason = ref('')
const first = computed(() => props.group.tasks[0]!)
const late = computed(() => daysBetween(props.group.due, props.today))
/** Where the work itself is done and written down. */
const PAGES: Partial<Record<Task['kind'], string>> = {
  mulch_top_up: 'tree-mulch',
  mulch_check: 'tree-mulch',
  mulch_pull_back: 'tree-mulch',
  mulch_thin_out: 'tree-mulch',
  mulch_stage: 'tree-mulch',
  weeds_through: 'tree-mulch',
  mulch_first: 'tree-mulch',
  ring_move: 'tree-drip',
  emitters_clean: 'tree-drip',
  emitters_mend: 'tree-drip',
  emitters_test: 'tree-drip',
  line_test: 'tree-drip',
  look_again: 'tree-checks',
}
/** What to look for on any tree of the group. */
const lookFor = computed(() => [...new Set(props.group.tasks.flatMap((x) => x.detail))])
const page = computed(() => PAGES[props.group.kind])
/** Where it is done and written down: one tree's own page, for many the order list or what lies in their row. */
const place = computed(() => {
  const tasks = props.group.tasks
  if (props.group.kind === 'drain_test')
    return { name: 'soil-test', params: { id: first.value.site_id, kind: 'drain_hole' } }
  if (!page.value) return null
  if (tasks.length > 1 && ['mulch_top_up', 'mulch_first'].includes(props.group.kind))
    return { name: 'order', query: { site: first.value.site_id, stop: props.group.stop ?? undefined } }
  return { name: page.value, params: { id: first.value.tree_id } }
})
/** A tree's tag, with the numbers of what it is about where it has some. */
const called = (task: Task) => [task.tag, task.numbers.join(', ')].filter(Boolean).join(': ')
const done = () => emit('say', props.group.tasks, 'done', null, '')
const REASONS = ['weather', 'no_time', 'done_before', 'client', 'gone']
function ask(what: 'moved' | 'dismissed') {
  asking.value = what
  reason.value = ''
  day.value = props.today
}
function keep() {
  emit('say', props.group.tasks, asking.value!, asking.value === 'moved' ? day.value : null, reason.value)
  asking.value = null
}
</script>

<template>
  <li>
    <div class="row">
      <span class="when" :class="{ warn: late > 0 }">{{
        late === 0 ? t('care.now') : late > 0 ? longDay(group.due) : fullDay(group.due)
      }}</span>
      <span class="what">
        <strong>{{ t(`task.${group.kind}.title`, { part: group.part }) }}</strong>
        <span v-if="!oneTree" class="who">
          {{ group.tasks.length > 1 ? t('care.trees', group.tasks.length) : first.tag }},
          {{ [group.stop, named ? group.site : ''].filter(Boolean).join(', ') || group.site }}</span
        >
        <span v-if="group.tasks.length === 1 && first.numbers.length">{{
          t('task.about.emitters', { numbers: first.numbers.join(', ') })
        }}</span>
        <span v-if="first.moved_from" class="quiet">{{
          t('care.movedFrom', { day: fullDay(first.moved_from), reason: first.reason })
        }}</span>
      </span>
      <button
        type="button"
        class="button plain"
        :aria-expanded="open"
        :aria-label="`${t('care.why')}: ${t(`task.${group.kind}.title`, { part: group.part })}`"
        @click="open = !open"
      >
        {{ t('care.why') }}
      </button>
      <RouterLink v-if="place" class="button done" :to="place">{{ t('care.doIt') }}</RouterLink>
      <button v-else type="button" class="button done" :disabled="busy" @click="done">
        {{ group.tasks.length > 1 ? t('care.forAll', { n: group.tasks.length }) : t('care.done') }}
      </button>
    </div>
    <div v-if="open" class="more">
      <p>{{ t(`task.${group.kind}.why`) }}</p>
      <ul v-if="lookFor.length">
        <li v-for="x in lookFor" :key="x">{{ t(`task.look.${x}`) }}</li>
      </ul>
      <p v-if="first.caution" class="caution">{{ t(`task.caution.${first.caution}`) }}</p>
      <p v-if="!oneTree" class="trees">
        <RouterLink
          v-for="x in group.tasks"
          :key="subjectOf(x)"
          :to="{ name: x.tree_id ? (page ?? 'tree-planting') : 'planting', params: { id: subjectOf(x) } }"
          >{{ called(x) }}</RouterLink
        >
      </p>
      <div class="acts">
        <button v-if="place" type="button" class="button" :disabled="busy" @click="done">
          {{ t('care.wasDone') }}
        </button>
        <button type="button" class="button" :disabled="busy" @click="ask('moved')">{{ t('care.move') }}</button>
        <button type="button" class="button" :disabled="busy" @click="ask('dismissed')">{{ t('care.dismiss') }}</button>
      </div>
      <form v-if="asking" class="ask" @submit.prevent="keep">
        <FormField v-if="asking === 'moved'" :id="`day-${group.key}`" :label="t('care.to')">
          <input :id="`day-${group.key}`" v-model="day" class="plain-input" type="date" :min="today" required />
        </FormField>
        <FormField :id="`why-${group.key}`" :label="t('care.reason')">
          <input
            :id="`why-${group.key}`"
            v-model="reason"
            class="plain-input"
            maxlength="200"
            :list="`reasons-${group.key}`"
            required
          />
          <datalist :id="`reasons-${group.key}`">
            <option v-for="r in REASONS" :key="r" :value="t(`care.reasons.${r}`)" />
          </datalist>
        </FormField>
        <button class="button main" :disabled="busy || !reason.trim()">{{ t('care.save') }}</button>
      </form>
    </div>
  </li>
</template>

<style scoped>
li {
  border-bottom: 1px solid var(--hair);
  padding: var(--space-1) 0;
}
.row {
  display: grid;
  grid-template-columns: 112px minmax(0, 1fr) auto auto;
  gap: var(--space-1) var(--space-3);
  align-items: center;
  min-height: 52px;
}
.when {
  font-family: var(--condensed);
  font-weight: 600;
}
.what {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
}
.who {
  color: var(--ink-2);
}
.more {
  padding: 0 0 var(--space-3) 122px;
  display: grid;
  gap: var(--space-2);
}
.trees {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-4);
}
.trees a,
.more p a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
.acts,
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  align-items: end;
}
@media (max-width: 767px) {
  .row {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .when {
    grid-column: 1 / -1;
  }
  .what {
    grid-column: 1 / -1;
  }
  .row .button:first-of-type {
    justify-self: start;
  }
  .done {
    min-height: 56px;
    min-width: 140px;
  }
  .more {
    padding-left: 0;
  }
}
</style>
