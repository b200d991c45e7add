<script setup lang="ts">
/** Writing down that a tree died, was removed, was stolen or moved away. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, type Schema } from '@/api/client'
import PictureInput from '@/components/common/PictureInput.vue'
import FormField from '@/components/common/FormField.vue'
import { useActing } from '@/composables/useActing'
import { useClock } from '@/composables/useClock'
import { useDevice } from '@/composables/useDevice'
import { usePictures } from '@/composables/usePictures'

const open = defineModel<boolean>('open', { required: true })
const props = defineProps<{ tree: Schema['TreeOut'] }>()
const emit = defineEmits<{ ended: [] }>()
const { t } = useI18n()
const { clock } = useClock()
const { person, ensurePerson } = useDevice()
const KINDS = ['dead', 'removed', 'stolen', 'moved'] as const
const CAUSES = ['dry', 'wet', 'pest', 'struck', 'unknown'] as const
const kind = ref<Schema['EndIn']['kind']>('dead')
const day = ref('')
const cause = ref('')
const { taken, add, drop, clear, send } = usePictures()
let id = newId()
function begin(now: boolean) {
  if (!now) return
  id = newId()
  clear()
  kind.value = 'dead'
  cause.value = ''
  day.value = clock.value?.day ?? ''
}
watch(open, begin, { immediate: true })
const { busy, failed, act } = useActing(async () => emit('ended'))
async function keep() {
  const done = await act(
    async () => {
      if (!(await ensurePerson())) return null
      await send(props.tree.id, 'ended', id)
      const body = {
        tree_id: props.tree.id,
        kind: kind.value,
        day: day.value || null,
        cause: cause.value,
        person_id: person.value?.id ?? null,
      }
      return persist(() => api.PUT('/api/tree-ends/{end_id}', { params: { path: { end_id: id } }, body }))
    },
    '',
    { typed: false },
  )
  if (done) open.value = false
}
</script>

<template>
  <el-dialog v-model="open" :title="t('end.title', { tag: tree.tag })" width="min(480px, 94vw)">
    <form class="end" @submit.prevent="keep">
      <fieldset>
        <legend class="visually-hidden">{{ t('end.what') }}</legend>
        <label v-for="k in KINDS" :key="k" class="kind" :class="{ on: kind === k }">
          <input v-model="kind" type="radio" name="end-kind" :value="k" />{{ t(`end.kind.${k}`) }}
        </label>
      </fieldset>
      <FormField id="end-day" :label="t('end.day')">
        <input id="end-day" v-model="day" type="date" class="plain-input" :min="tree.planted_on" :max="clock?.day" />
      </FormField>
      <FormField id="end-cause" :label="t('end.cause')" :hint="t('end.causeHint')">
        <input
          id="end-cause"
          v-model="cause"
          class="plain-input"
          maxlength="200"
          list="end-causes"
          autocomplete="off"
        />
        <datalist id="end-causes">
          <option v-for="c in CAUSES" :key="c" :value="t(`end.causes.${c}`)" />
        </datalist>
      </FormField>
      <PictureInput id="end-pictures" :taken="taken" :disabled="busy" @add="add" @drop="drop" />
      <p v-if="kind === 'dead' || kind === 'removed'" class="caution">{{ t('end.caution') }}</p>
      <p class="quiet">{{ t('end.kept') }}</p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <button class="button main" :disabled="busy">{{ t('end.keep') }}</button>
    </form>
  </el-dialog>
</template>

<style scoped>
.end {
  display: grid;
  gap: var(--space-4);
  justify-items: start;
}
fieldset {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--space-2);
  width: 100%;
}
.kind {
  display: flex;
  align-items: center;
  gap: var(--space-2);
  min-height: var(--tap);
  padding: 0 var(--space-3);
  border: 2px solid var(--hair);
}
.kind.on {
  border-color: var(--ink);
  font-weight: 600;
}
</style>
