<script setup lang="ts">
/** A way of pouring, 132 x 84, on the same soil line: where the water comes from and where it goes in. */
defineProps<{ of: string }>()
</script>

<template>
  <svg viewBox="0 0 132 84" width="132" height="84">
    <rect class="soil" x="0" y="50" width="132" height="34" />
    <path class="ball" d="M46 50C48 70 58 76 66 76C74 76 84 70 86 50Z" />
    <path class="trunk" d="M66 4V50" />
    <path class="line" d="M0 50H132" />
    <template v-if="of === 'hose'">
      <path class="basin" d="M34 50L38 44L42 50M90 50L94 44L98 50" />
      <path class="tube" d="M132 36C112 30 104 40 92 42L82 48" />
      <path class="water" d="M42 49H90V46H42Z" />
    </template>
    <template v-else-if="of === 'bucket'">
      <path class="basin" d="M34 50L38 44L42 50M90 50L94 44L98 50" />
      <path class="pot" d="M92 14L112 22L106 38L88 30Z" />
      <path class="fall" d="M88 28C82 32 80 40 80 47M91 31C85 35 84 42 84 47" />
      <path class="water" d="M42 49H90V46H42Z" />
    </template>
    <template v-else-if="of === 'tank'">
      <path class="basin" d="M34 50L38 44L42 50" />
      <path class="pot" d="M96 24H128V44H96Z" />
      <circle class="wheel" cx="104" cy="47" r="4" />
      <circle class="wheel" cx="120" cy="47" r="4" />
      <path class="tube" d="M100 24V12H82V20" />
      <path class="fall" d="M82 22V46" />
      <path class="water" d="M42 49H90V46H42Z" />
    </template>
    <template v-else-if="of === 'bag'">
      <path class="sack" d="M56 20C50 30 48 42 50 50H82C84 42 82 30 76 20Z" />
      <path class="drops" d="M54 54V58M62 54V60M70 54V60M78 54V58" />
    </template>
    <template v-else-if="of === 'emitters'">
      <path class="tube" d="M132 48H48" />
      <circle v-for="x in [52, 60, 72, 80]" :key="x" class="drip" :cx="x" cy="48" r="3.5" />
      <path class="drops" d="M52 54V60M60 54V62M72 54V62M80 54V60" />
    </template>
    <template v-else-if="of === 'soaker'">
      <ellipse class="loop" cx="66" cy="48" rx="26" ry="4" />
      <path class="tube" d="M132 48H92" />
      <path class="drops" d="M42 53V57M50 54V59M58 54V60M74 54V60M82 54V59M90 53V57" />
    </template>
    <template v-else-if="of === 'sprinkler'">
      <path class="tube" d="M18 50V38" />
      <path
        class="fall"
        d="M18 36C30 14 54 18 60 46M18 36C34 20 84 14 92 46M18 36C34 26 100 14 118 46M18 36C16 28 10 30 6 46"
      />
    </template>
    <template v-else>
      <path class="sack" d="M42 34H58V50H42ZM74 34H90V50H74ZM42 34C52 28 80 28 90 34L90 38H42Z" />
      <path class="water" d="M43 42H57V49H43ZM75 42H89V49H75Z" />
      <path class="wick" d="M52 50V62M80 50V62" />
    </template>
  </svg>
</template>

<style scoped>
.soil {
  fill: var(--soil);
}
.ball {
  fill: var(--ball);
  stroke: var(--ink);
}
.trunk {
  stroke: var(--bark);
  stroke-width: 4;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.basin {
  fill: var(--root);
  stroke: var(--ink);
}
.tube,
.loop {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.loop {
  stroke-dasharray: 4 2;
}
.water,
.sack {
  fill: var(--water-pale);
  stroke: var(--ink);
}
.water {
  fill: var(--water-fill);
}
.pot {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.wheel {
  fill: var(--ink);
}
.fall,
.drops {
  fill: none;
  stroke: var(--water);
  stroke-width: 2;
  stroke-dasharray: 3 2;
}
.drip {
  fill: var(--water-fill);
  stroke: var(--ink);
}
.wick {
  stroke: var(--straw);
  stroke-width: 4;
}
</style>
