<script setup lang="ts">
/** From today on by this routine: the tree, its stop or its site. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { newId, type Schema } from '@/api/client'
import { useActing } from '@/composables/useActing'
import { useRoutines, type Whom } from '@/composables/useRoutines'

const open = defineModel<boolean>('open', { required: true })
const props = defineProps<{ choices: Schema['RehearsalChoices']; routine: Schema['RoutineOut'] | null }>()
const emit = defineEmits<{ used: [chosen: Schema['RoutineChoiceOut']] }>()
const { t } = useI18n()
const { nameOf, says, use } = useRoutines()
const whom = ref<'tree' | 'stop' | 'site'>('tree')
let id = newId()
watch(open, (now) => {
  if (!now) return
  id = newId()
  whom.value = 'tree'
})
const { busy, failed, act } = useActing(async () => undefined)
async function keep() {
  const tree = props.choices.tree
  const of: Whom =
    whom.value === 'tree'
      ? { tree_id: tree.id }
      : whom.value === 'stop'
        ? { stop_id: props.choices.stop_id }
        : { site_id: tree.site_id }
  let chosen: Schema['RoutineChoiceOut'] | null = null
  const done = await act(async () => (chosen = await use(id, props.routine!, of)), '', { typed: false })
  if (!done || !chosen) return
  open.value = false
  emit('used', chosen)
}
</script>

<template>
  <el-dialog
    v-model="open"
    :title="routine ? t('rehearse.useTitle', { name: nameOf(routine) }) : ''"
    width="min(480px, 94vw)"
  >
    <form v-if="routine" @submit.prevent="keep">
      <p>{{ says(routine) }}</p>
      <fieldset>
        <legend>{{ t('rehearse.useFor') }}</legend>
        <label
          ><input v-model="whom" type="radio" name="whom" value="tree" />{{
            t('rehearse.useTree', { tag: choices.tree.tag })
          }}</label
        >
        <label v-if="choices.stop_trees > 1"
          ><input v-model="whom" type="radio" name="whom" value="stop" />{{
            t('rehearse.useStop', { stop: choices.tree.stop, n: choices.stop_trees }, choices.stop_trees)
          }}</label
        >
        <label v-if="choices.site_trees > 1"
          ><input v-model="whom" type="radio" name="whom" value="site" />{{
            t('rehearse.useSite', { site: choices.tree.site_name, n: choices.site_trees }, choices.site_trees)
          }}</label
        >
      </fieldset>
      <p class="quiet">{{ t('rehearse.useWords') }}</p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <div class="acts">
        <button type="submit" class="button main" :disabled="busy">{{ t('rehearse.useKeep') }}</button>
        <button type="button" class="button" @click="open = false">{{ t('common.cancel') }}</button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
form,
fieldset {
  display: grid;
  gap: var(--space-3);
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
}
label {
  display: flex;
  align-items: center;
  gap: var(--space-3);
  min-height: var(--tap);
}
input {
  width: 22px;
  height: 22px;
}
.acts {
  display: flex;
  gap: var(--space-3);
}
</style>
