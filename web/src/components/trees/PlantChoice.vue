<script setup lang="ts">
/** A kind of tree, found by any words of its names: a box to type in and a list that follows. */
import { computed, nextTick, ref, useId, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { treeName } from '@/i18n'

const props = defineProps<{ id: string; plants: Schema['PlantOut'][]; label: string }>()
const model = defineModel<string>({ required: true })
const { t } = useI18n()
const list = useId()
const nameOf = (p: Schema['PlantOut']) => `${treeName(p.common)}, ${p.botanical}`
const chosen = computed(() => props.plants.find((p) => p.id === model.value))
const typed = ref('')
const open = ref(false)
const at = ref(-1)
watch(
  chosen,
  (now) => {
    if (!open.value) typed.value = now ? nameOf(now) : ''
  },
  { immediate: true },
)
/** What was typed narrows the list; a kind that is chosen already does not hide the others. */
const found = computed(() => {
  if (chosen.value && typed.value === nameOf(chosen.value)) return props.plants
  const words = typed.value.toLowerCase().split(/\s+/)
  return props.plants.filter((p) => words.every((w) => nameOf(p).toLowerCase().includes(w)))
})
const optionId = (i: number) => `${list}-${i}`

function show(input?: HTMLInputElement) {
  if (open.value) return
  open.value = true
  at.value = found.value.findIndex((p) => p.id === model.value)
  input?.select()
  void reveal()
}
function close() {
  open.value = false
  at.value = -1
  typed.value = chosen.value ? nameOf(chosen.value) : ''
}
function take(p: Schema['PlantOut'] | undefined) {
  if (p) model.value = p.id
  void nextTick(close)
}
async function reveal() {
  await nextTick()
  document.getElementById(optionId(at.value))?.scrollIntoView({ block: 'nearest' })
}
function keys(e: KeyboardEvent) {
  const step = { ArrowDown: 1, ArrowUp: -1 }[e.key]
  if (step) {
    e.preventDefault()
    if (!open.value) return show()
    const n = found.value.length
    if (n) at.value = (at.value + step + n) % n
    void reveal()
  } else if (e.key === 'Enter' && open.value) {
    e.preventDefault()
    take(found.value[at.value] ?? (found.value.length === 1 ? found.value[0] : undefined))
  } else if (e.key === 'Escape' && open.value) {
    e.stopPropagation()
    close()
  }
}
function type(e: Event) {
  typed.value = (e.target as HTMLInputElement).value
  open.value = true
  at.value = found.value.length ? 0 : -1
}
</script>

<template>
  <div class="choice">
    <input
      :id="id"
      :value="typed"
      class="plain-input"
      role="combobox"
      aria-autocomplete="list"
      autocomplete="off"
      :aria-label="label"
      :aria-expanded="open"
      :aria-controls="list"
      :aria-activedescendant="open && at >= 0 ? optionId(at) : undefined"
      :placeholder="t('common.choose')"
      @input="type"
      @click="show($event.target as HTMLInputElement)"
      @keydown="keys"
      @blur="close"
    />
    <ul v-show="open" :id="list" role="listbox" :aria-label="label" @mousedown.prevent>
      <li
        v-for="(p, i) in open ? found : []"
        :id="optionId(i)"
        :key="p.id"
        role="option"
        :aria-selected="p.id === model"
        :class="{ at: i === at }"
        @click="take(p)"
      >
        {{ treeName(p.common) }}, <i>{{ p.botanical }}</i>
      </li>
    </ul>
    <p v-if="open && !found.length" class="none" role="status">{{ t('trees.noneFound') }}</p>
  </div>
</template>

<style scoped>
.choice {
  position: relative;
}
.plain-input {
  width: 100%;
}
ul,
.none {
  position: absolute;
  z-index: 10;
  inset: 100% 0 auto 0;
  max-height: 320px;
  overflow: auto;
  background: var(--ground);
  border: 2px solid var(--ink);
  border-top: 0;
}
.none {
  padding: var(--space-3);
}
li {
  display: block;
  min-height: var(--tap);
  padding: var(--space-2) var(--space-3);
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
}
li.at,
li:hover {
  background: var(--shade);
}
li[aria-selected='true'] {
  font-weight: 600;
}
</style>
