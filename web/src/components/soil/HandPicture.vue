<script setup lang="ts">
/** A handful of soil in one of its states, 132 x 84: what the hand sees, drawn to tell the choices apart. */
defineProps<{ of: string }>()
/** Grains at fixed places, so that a picture is the same every time. */
const GRAINS: [number, number, number][] = [
  [30, 62, 3], [38, 58, 2], [44, 64, 3], [52, 56, 3], [58, 63, 2], [64, 58, 4], [72, 64, 3], [78, 57, 2],
  [84, 63, 3], [92, 60, 2], [98, 65, 3], [48, 50, 2], [60, 49, 3], [70, 50, 2], [80, 50, 2], [66, 42, 2],
] // prettier-ignore
const RIBBON: Record<string, number> = { short: 20, medium: 46, long: 84 }
</script>

<template>
  <svg viewBox="0 0 132 84" width="132" height="84">
    <path class="palm" d="M8 66C24 78 108 78 124 66" />
    <g v-if="of === 'crumbles' || of === 'no_ball'">
      <circle
        v-for="([x, y, r], i) in GRAINS"
        :key="i"
        :cx="x"
        :cy="y"
        :r="of === 'no_ball' ? 1.6 : r + (i % 3)"
        :class="of === 'no_ball' ? 'sand' : 'grain'"
      />
    </g>
    <g v-else-if="of === 'sticky'">
      <path class="wet" d="M28 66C26 48 44 44 50 52C54 38 76 38 80 50C92 44 108 54 102 66Z" />
      <path class="shine" d="M38 56C42 52 46 52 48 55M60 50C64 46 70 46 72 50" />
    </g>
    <g v-else-if="of === 'powder'">
      <path class="dust" d="M26 68C44 44 88 44 106 68Z" />
      <path class="smoke" d="M44 40C40 32 48 28 46 20M66 36C62 28 70 24 68 14M88 40C84 32 92 28 90 20" />
    </g>
    <g v-else-if="of === 'falls_apart'">
      <path class="grain" d="M34 66L42 48L54 54L50 66ZM58 66L64 44L80 50L78 66ZM84 66L90 54L104 60L102 66Z" />
      <circle v-for="[x, y, r] in GRAINS.slice(0, 6)" :key="x" :cx="x" :cy="y + 6" :r="r - 1" class="grain" />
    </g>
    <g v-else-if="of === 'holds'">
      <path class="grain" d="M34 66C28 40 46 30 66 30C88 30 104 42 98 66Z" />
      <path class="mark" d="M48 38C46 48 48 56 50 62M64 34C62 46 64 54 66 62M80 38C80 48 80 56 82 62" />
    </g>
    <g v-else-if="of === 'modelling_clay'">
      <path class="wet" d="M34 66C28 40 46 30 66 30C88 30 104 42 98 66Z" />
      <path class="mark" d="M46 36C58 44 44 50 58 60M64 32C76 42 62 50 76 62" />
      <path
        class="drop"
        d="M106 60C106 56 110 52 110 52C110 52 114 56 114 60A4 4 0 0 1 106 60ZM18 58C18 54 22 50 22 50C22 50 26 54 26 58A4 4 0 0 1 18 58Z"
      />
    </g>
    <g v-else-if="of === 'no_ribbon'">
      <circle class="grain" cx="66" cy="48" r="22" />
      <path class="mark" d="M56 36L62 48L54 58M76 38L72 50L80 60" />
    </g>
    <g v-else-if="RIBBON[of]">
      <path class="ruler" d="M24 72H118M24 68V76M55 68V76M86 68V76M118 68V76" />
      <path class="thumb" d="M4 58C10 48 18 46 24 50L24 62C18 66 10 64 4 66Z" />
      <path class="wet" :d="`M22 50H${24 + RIBBON[of]!}L${30 + RIBBON[of]!} 58L${24 + RIBBON[of]!} 62H22Z`" />
    </g>
    <g v-else-if="of === 'gritty'">
      <path class="wet" d="M40 64C38 50 94 50 92 64Z" />
      <circle v-for="[x, y] in GRAINS" :key="x" :cx="x * 0.6 + 26" :cy="y * 0.6 + 24" r="1.8" class="sand" />
    </g>
    <g v-else-if="of === 'smooth'">
      <path class="wet" d="M40 64C38 48 94 48 92 64Z" />
      <path class="shine" d="M50 58C60 52 74 52 82 57M54 62C64 58 72 58 80 61" />
    </g>
    <g v-else>
      <path class="wet" d="M40 64C38 48 94 48 92 64Z" />
      <circle v-for="[x, y] in GRAINS.slice(0, 5)" :key="x" :cx="x + 14" :cy="y * 0.4 + 34" r="1.6" class="sand" />
      <path class="shine" d="M66 58C72 54 78 54 84 58" />
    </g>
  </svg>
</template>

<style scoped>
.palm {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.grain,
.dust {
  fill: var(--soil);
  stroke: var(--ink);
}
.sand {
  fill: var(--straw);
  stroke: var(--ink);
  stroke-width: 0.8;
}
.wet {
  fill: var(--root);
  stroke: var(--ink);
}
.thumb {
  fill: var(--ground);
  stroke: var(--ink);
}
.shine {
  fill: none;
  stroke: var(--ground);
  stroke-width: 2;
}
.mark,
.smoke,
.ruler {
  fill: none;
  stroke: var(--ink);
}
.smoke {
  stroke-dasharray: 3 3;
}
.drop {
  fill: var(--water-fill);
  stroke: var(--ink);
}
</style>
