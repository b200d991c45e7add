<script setup lang="ts">
/** Stock from the side, 132 x 84: what holds the roots. */
defineProps<{ of: string }>()
</script>

<template>
  <svg viewBox="0 0 132 84" width="132" height="84">
    <path class="trunk" d="M66 4V40" />
    <path class="crown" d="M66 22L50 8M66 18L80 6M66 28L86 16" />
    <template v-if="of === 'container'">
      <path class="pot" d="M42 40H90L84 78H48Z" />
      <path class="rim" d="M39 40H93" />
    </template>
    <template v-else-if="of === 'box'">
      <path class="wood" d="M36 40H96L90 78H42Z" />
      <path class="line" d="M38 52H94M40 64H92M50 40L53 78M82 40L79 78" />
    </template>
    <template v-else-if="of === 'fabric_bag'">
      <path class="cloth" d="M40 42C38 56 38 70 44 78H88C94 70 94 56 92 42C78 38 54 38 40 42Z" />
      <path class="line" d="M40 42C54 48 78 48 92 42M46 42V34C46 30 54 30 54 36M78 36C78 30 86 30 86 34V42" />
    </template>
    <template v-else-if="of === 'balled'">
      <path class="ball" d="M36 44C44 38 88 38 96 44C98 62 84 80 66 80C48 80 34 62 36 44Z" />
      <path class="line" d="M40 52L92 68M92 52L40 68M66 40V80M48 42L56 78M84 42L76 78" />
    </template>
    <template v-else>
      <path
        class="roots"
        d="M66 40C58 50 44 50 34 60M66 40C62 54 52 62 48 76M66 40C66 54 66 66 66 78M66 40C70 54 80 62 84 76M66 40C74 50 88 50 98 60M50 54L44 66M82 54L88 66"
      />
    </template>
  </svg>
</template>

<style scoped>
.trunk {
  stroke: var(--bark);
  stroke-width: 4;
}
.crown,
.line {
  fill: none;
  stroke: var(--ink);
}
.crown {
  stroke: var(--bark);
  stroke-width: 2;
}
.pot {
  fill: var(--ink-2);
  stroke: var(--ink);
}
.rim {
  stroke: var(--ink);
  stroke-width: 4;
}
.wood {
  fill: var(--soil);
  stroke: var(--ink);
}
.cloth {
  fill: var(--ball);
  stroke: var(--ink);
  stroke-dasharray: 2 2;
}
.ball {
  fill: var(--ball);
  stroke: var(--ink);
}
.roots {
  fill: none;
  stroke: var(--root);
  stroke-width: 2.5;
}
</style>
