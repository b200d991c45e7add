<script setup lang="ts">
/** The small picture beside a test's name, 72 x 48. */
import HandPicture from './HandPicture.vue'

defineProps<{ kind: string }>()
const HAND: Record<string, string> = { crumble: 'crumbles', clump: 'holds', ribbon: 'medium' }
</script>

<template>
  <HandPicture v-if="HAND[kind]" class="small" :of="HAND[kind]!" aria-hidden="true" />
  <svg v-else viewBox="0 0 72 48" class="small" aria-hidden="true">
    <template v-if="kind === 'jar'">
      <rect x="24" y="30" width="24" height="14" class="sand" />
      <rect x="24" y="20" width="24" height="10" class="soil" />
      <rect x="24" y="14" width="24" height="6" class="clay" />
      <path class="line" d="M26 3H46V8L50 12V44H22V12L26 8Z" />
    </template>
    <template v-else-if="kind === 'percentages'">
      <path class="line" d="M36 4L62 44H10Z" />
      <path class="thin" d="M23 24H49M27 44L43 14M45 44L29 14" />
      <circle cx="34" cy="30" r="4" class="dot" />
    </template>
    <template v-else-if="kind === 'drain_hole'">
      <path class="soil" d="M0 12H20V42H52V12H72V48H0Z" />
      <rect x="20" y="24" width="32" height="18" class="water" />
      <path class="line" d="M0 12H20V42H52V12H72" />
      <path class="dash" d="M20 17H52" />
    </template>
    <template v-else-if="kind === 'infiltration'">
      <rect y="26" width="72" height="22" class="soil" />
      <rect x="22" y="16" width="28" height="10" class="water" />
      <path class="line" d="M22 6V36M50 6V36M0 26H22M50 26H72" />
    </template>
    <template v-else>
      <rect y="12" width="72" height="22" class="soil" />
      <rect y="34" width="72" height="14" class="pan" />
      <path class="line" d="M0 12H72M36 2V34M30 2H42" />
    </template>
  </svg>
</template>

<style scoped>
.small {
  width: 72px;
  height: 48px;
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.thin,
.dash {
  fill: none;
  stroke: var(--ink);
}
.dash {
  stroke-dasharray: 4 3;
}
.sand {
  fill: var(--straw);
}
.soil {
  fill: var(--soil);
}
.clay {
  fill: var(--root);
}
.water {
  fill: var(--water-fill);
  stroke: var(--ink);
}
.pan {
  fill: var(--bark);
}
.dot {
  fill: var(--water);
}
</style>
