<script setup lang="ts">
/**
 * The stage of every page of the sheet: one soil line across it. Above it, what to do; on it, the tree in its hole to
 * the left and whatever hangs from the line to the right. The line stands where the tallest thing above it ends.
 */
import { useElementSize, useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'

const props = withDefaults(defineProps<{ above?: number; below?: number; least?: number }>(), {
  above: 0,
  below: 290,
  least: 244,
})
const wide = useMediaQuery('(min-width: 1024px)')
const top = ref<HTMLElement | null>(null)
const { height } = useElementSize(top)
const ground = computed(() => Math.round(Math.max(props.least, height.value)) + props.above)
const phone = useMediaQuery('(max-width: 767px)')
const { width: room } = useElementSize(top)
const drawing = computed(() =>
  wide.value
    ? { width: 548, height: ground.value + props.below, ground: ground.value }
    : phone.value
      ? { width: Math.max(300, room.value + 32), height: 200, ground: 72 }
      : { width: Math.max(300, room.value), height: 320, ground: 110 },
)
</script>

<template>
  <div
    class="scene"
    :class="{ wide, measured: height > 0 }"
    :style="{ '--line': `${ground}px`, '--below': `${below}px` }"
  >
    <div class="drawing"><slot name="drawing" v-bind="drawing" :phone="!wide" /></div>
    <div class="side">
      <div ref="top" class="top"><slot name="act" /></div>
      <div class="hang" :style="wide ? { marginTop: `${ground - above - Math.round(height)}px` } : undefined">
        <slot name="hang" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.scene {
  position: relative;
}
.scene.wide {
  display: grid;
  grid-template-columns: 548px minmax(0, 560px);
  gap: var(--space-7);
}
/* until it is known how tall the words are, nobody sees the line where it will not stay */
.scene.wide:not(.measured) {
  visibility: hidden;
}
.scene.wide::before {
  content: '';
  position: absolute;
  top: calc(var(--line) - 1px);
  left: calc(-1 * var(--space-6));
  width: 100vw;
  height: calc(var(--below) + 1px);
  background: var(--soil);
  border-top: 2px solid var(--ink);
}
.hang {
  display: flow-root; /* its first child's margin is its own */
}
.drawing,
.side {
  position: relative;
  min-width: 0;
}
.scene:not(.wide) {
  display: flex;
  flex-direction: column;
}
.scene:not(.wide) .hang {
  margin-top: var(--space-5);
}
@media (max-width: 767px) {
  .drawing {
    margin: 0 calc(-1 * var(--space-4)) var(--space-2);
  }
}
@media print {
  .scene.wide {
    display: block;
  }
  .scene.wide::before {
    display: none;
  }
  .hang {
    margin-top: 0 !important; /* on the screen it hangs from the line */
  }
  .drawing :deep(svg) {
    height: 38mm;
    width: auto;
    max-width: 100%;
  }
}
</style>
