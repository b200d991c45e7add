<script setup lang="ts">
/** What lies round a tree, or how hot and windy its place is, 132 x 84. */
defineProps<{ of: string }>()
const TUFTS = [8, 20, 32, 98, 110, 122]
const STONES = [6, 16, 26, 36, 96, 106, 116, 126]
</script>

<template>
  <svg viewBox="0 0 132 84" width="132" height="84">
    <rect class="soil" x="0" y="58" width="132" height="26" />
    <path class="trunk" d="M66 24V58" />
    <circle class="crown" cx="66" cy="22" r="17" />
    <template v-if="of === 'turf'">
      <path v-for="x in TUFTS" :key="x" class="grass" :d="`M${x} 58L${x - 4} 48M${x} 58V46M${x} 58L${x + 4} 48`" />
    </template>
    <path v-else-if="of === 'paved'" class="slab" d="M0 52H42V62H0ZM90 52H132V62H90ZM20 52V62M112 52V62" />
    <template v-else-if="of === 'gravel'">
      <ellipse v-for="(x, i) in STONES" :key="x" class="stone" :cx="x" :cy="56 - (i % 2)" rx="6" ry="4" />
    </template>
    <template v-else-if="of === 'plastic' || of === 'plastic_holed'">
      <path class="sheet" d="M0 56C12 52 20 60 44 56M88 56C104 60 116 52 132 56" />
      <path class="rain" d="M12 30V44M30 30V44M102 30V44M120 30V44" />
      <path v-if="of === 'plastic_holed'" class="rain" d="M12 60V74M30 60V74M102 60V74M120 60V74" />
      <path v-else class="runoff" d="M30 50L42 44M102 50L90 44" />
    </template>
    <template v-else-if="of === 'deep_shade' || of === 'shade'">
      <path class="wall" d="M0 0H28V58H0Z" />
      <path class="shadow" :d="of === 'deep_shade' ? 'M28 0H132V58H28Z' : 'M28 0L92 58H28Z'" />
    </template>
    <template v-else-if="of === 'open'">
      <circle class="sun" cx="112" cy="16" r="9" />
    </template>
    <template v-else-if="of === 'hot_or_windy'">
      <circle class="sun" cx="112" cy="16" r="9" />
      <path class="slab" d="M0 52H42V62H0ZM90 52H132V62H90Z" />
      <path class="wind" d="M4 20H36C42 20 42 12 36 12M4 30H42C50 30 50 38 42 38" />
    </template>
    <template v-else-if="of === 'hot_wall'">
      <path class="wall" d="M0 4H24V58H0ZM0 18H24M0 32H24M0 46H24M12 4V18M8 18V32M16 32V46" />
      <circle class="sun" cx="112" cy="16" r="9" />
      <path class="heat" d="M30 16C36 20 30 26 36 30M30 34C36 38 30 44 36 48" />
      <path class="slab" d="M24 52H46V62H24ZM88 52H132V62H88Z" />
    </template>
    <path class="line" d="M0 58H132" />
  </svg>
</template>

<style scoped>
.soil {
  fill: var(--soil);
}
.trunk {
  stroke: var(--bark);
  stroke-width: 4;
}
.crown {
  fill: var(--ground);
  stroke: var(--ink);
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.grass,
.wind,
.heat,
.runoff {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.heat {
  stroke: var(--warning);
}
.slab {
  fill: var(--hair);
  stroke: var(--ink);
}
.stone {
  fill: var(--ball);
  stroke: var(--ink);
}
.sheet {
  fill: none;
  stroke: var(--ink);
  stroke-width: 4;
}
.rain {
  stroke: var(--water);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
.wall {
  fill: var(--soil);
  stroke: var(--ink);
}
.shadow {
  fill: var(--ink);
  fill-opacity: 0.28;
}
.sun {
  fill: var(--straw);
  stroke: var(--ink);
}
</style>
