<script setup lang="ts">
/** The trees of a plan by stop, to be picked, looked at and placed without the map. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { pourOf } from '@/composables/useRound'
import { groups, type Ground, type Group } from '@/logic/ground'
import { percent } from '@/logic/numbers'
import { text } from '@/units'

const props = defineProps<{ ground: Ground }>()
const picked = defineModel<Set<string>>('picked', { required: true })
const emit = defineEmits<{ look: [group: Group | null]; place: [group: Group] }>()
const { t } = useI18n()
const found = computed(() => groups(props.ground))
const has = (group: Group) => group.trees.every((tree) => picked.value.has(tree.id))
function pick(ids: string[], on: boolean) {
  const next = new Set(picked.value)
  ids.forEach((id) => (on ? next.add(id) : next.delete(id)))
  picked.value = next
}
const guessed = (group: Group) => group.trees.filter((tree) => tree.basis !== 'own').length
const wants = (tree: Ground['trees'][number]) =>
  tree.turn !== null && tree.next ? text('volume', pourOf(tree.next).litres) : ''
</script>

<template>
  <div>
    <details v-for="group in found" :key="group.stop" class="group" :open="found.length < 3">
      <summary>
        <span class="name">{{ group.stop || t('ground.noStop') }}</span>
        <span class="quiet">{{ t('trees.count', { n: group.trees.length }, group.trees.length) }}</span>
      </summary>
      <div class="buttons">
        <button type="button" class="button plain" @click="emit('look', group)">{{ t('ground.goThere') }}</button>
        <button
          type="button"
          class="button plain"
          @click="
            pick(
              group.trees.map((tree) => tree.id),
              !has(group),
            )
          "
        >
          {{ t(has(group) ? 'ground.pickNone' : 'ground.pickAll') }}
        </button>
        <button type="button" class="button plain" @click="emit('place', group)">{{ t('ground.placeRow') }}</button>
      </div>
      <p v-if="guessed(group)" class="quiet">
        {{
          t(
            `ground.basis.${group.trees.find((tree) => tree.basis !== 'own')!.basis}`,
            { n: guessed(group) },
            guessed(group),
          )
        }}
      </p>
      <ul>
        <li v-for="tree in group.trees" :key="tree.id">
          <label>
            <input
              type="checkbox"
              :checked="picked.has(tree.id)"
              @change="pick([tree.id], ($event.target as HTMLInputElement).checked)"
            />
            <span class="tag">{{ tree.tag }}</span>
            <span v-if="tree.dryness !== null" class="quiet">{{
              t('ground.dry', { dry: percent(tree.dryness) })
            }}</span>
            <strong v-if="wants(tree)">{{ wants(tree) }}</strong>
          </label>
          <RouterLink
            :to="{ name: 'tree-water', params: { id: tree.id } }"
            :aria-label="t('ground.openTree', { tag: tree.tag })"
            >{{ t('ground.open') }}</RouterLink
          >
        </li>
      </ul>
    </details>
  </div>
</template>

<style scoped>
.group {
  border-bottom: 1px solid var(--hair);
}
summary {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  gap: var(--space-3);
  cursor: pointer;
}
.name {
  font-weight: 600;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-4);
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-3);
}
li label {
  display: flex;
  align-items: center;
  gap: var(--space-3);
  min-height: var(--tap);
  flex: 1;
}
li a {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
input {
  width: 22px;
  height: 22px;
}
</style>
