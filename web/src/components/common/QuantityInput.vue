<script setup lang="ts">
/** A measure as it is typed: either unit system, fractions too. What can't be read stays as typed, and is said. */
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Wrong } from '@/api/client'
import { ungrouped } from '@/logic/numbers'
import { wrongMeasure, type TreeFieldName } from '@/logic/treeFields'
import { useMeasure } from '@/composables/useMeasures'
import { useWrong } from '@/composables/useWrong'
import { handy, parse, show, system, unitLabel, type Dimension } from '@/units'

const props = defineProps<{
  dimension: Dimension
  label: string
  hint?: string
  error?: Wrong
  id: string
  required?: boolean
  digits?: number
  /** The tree's field that it fills: its limits are told while it is typed. */
  of?: TreeFieldName
}>()
const model = defineModel<number | null>({ required: true })
const invalid = defineModel<boolean>('invalid', { default: false })
const { t } = useI18n()
const say = useWrong()
useMeasure(props, invalid)

const plain = (si: number) =>
  ungrouped(props.digits === undefined ? handy(props.dimension, si) : show(props.dimension, si, props.digits).value)
const typed = ref(model.value === null ? '' : plain(model.value))
const outside = ref<Wrong>()
let own: number | null = model.value

watch([model, system], ([value]) => {
  if (invalid.value && value === own) return
  if (value !== own) {
    outside.value = undefined // another value came from elsewhere: what was typed is gone
    invalid.value = false
  }
  typed.value = value === null ? '' : plain(value)
  own = value
})

function read(text: string) {
  typed.value = text
  const clean = text.trim()
  const value = clean ? parse(props.dimension, clean) : null
  const bad = Boolean(clean) && value === null
  outside.value = !bad && props.of ? wrongMeasure(props.of, value) : undefined
  invalid.value = bad || Boolean(outside.value) // a model read back here would still say what it said before
  if (bad) return
  own = value
  model.value = value
}
/** A field that is not shown holds nothing that can't be read. */
onBeforeUnmount(() => (invalid.value = false))
function settle() {
  if (!invalid.value && model.value !== null) typed.value = plain(model.value)
}
const example = computed(() =>
  props.dimension === 'volume' ? '5 gal' : props.dimension === 'flow' ? '2 gal/h' : '24 in, 60 cm',
)
const said = computed(() =>
  outside.value
    ? say(outside.value, props.dimension)
    : invalid.value
      ? t('form.cantRead', { example: example.value })
      : say(props.error, props.dimension),
)
</script>

<template>
  <div class="field" :class="{ bad: said }">
    <label :for="id">{{ label }}</label>
    <div class="typed">
      <input
        :id="id"
        :value="typed"
        inputmode="text"
        autocomplete="off"
        :aria-invalid="Boolean(said)"
        :aria-describedby="said || hint ? `${id}-say` : undefined"
        :required="required"
        @input="read(($event.target as HTMLInputElement).value)"
        @blur="settle"
      />
      <span class="unit">{{ unitLabel(dimension) }}</span>
    </div>
    <p v-if="said" :id="`${id}-say`" class="warn">{{ said }}</p>
    <p v-else-if="hint" :id="`${id}-say`" class="hint">{{ hint }}</p>
  </div>
</template>
