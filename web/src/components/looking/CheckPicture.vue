<script setup lang="ts">
/** Where to look and what to do with the hand, one drawing a question: the tree in its ground, what is asked in front. */
defineProps<{ of: string }>()
const ROW = [40, 110, 180, 250, 320]
</script>

<template>
  <svg viewBox="0 0 360 150" aria-hidden="true" class="picture">
    <g v-if="of === 'row'">
      <path class="soil" d="M0 110H360V150H0Z" />
      <g v-for="(x, i) in ROW" :key="x">
        <path class="trunk" :d="`M${x} 110V70`" />
        <path v-if="i !== 2" class="crown" :d="`M${x - 22} 70C${x - 24} 40 ${x + 24} 40 ${x + 22} 70Z`" />
        <path
          v-else
          class="droop"
          :d="`M${x - 20} 84C${x - 26} 54 ${x + 26} 54 ${x + 20} 84L${x + 12} 66H${x - 12}Z`"
        />
      </g>
      <path class="line" d="M0 110H360" />
    </g>
    <g v-else-if="of === 'leaf' || of === 'overnight'">
      <path class="branch" d="M30 40C90 30 150 34 210 46" />
      <path class="leaf" d="M90 36C96 14 122 10 132 16C128 32 108 40 90 36Z" />
      <path class="leaf hang" d="M150 40C150 62 140 92 150 108C166 94 166 60 150 40Z" />
      <path class="leaf hang" d="M204 46C206 68 198 96 208 112C222 98 220 64 204 46Z" />
      <g v-if="of === 'overnight'">
        <circle class="sun" cx="316" cy="46" r="20" />
        <path class="line" d="M316 14V6M316 86V78M284 46H276M348 46H356M294 24L288 18M338 24L344 18" />
        <path class="line" d="M272 100H356" />
      </g>
    </g>
    <g v-else-if="of === 'circling'">
      <circle class="soil edge" cx="180" cy="75" r="70" />
      <circle class="wood" cx="180" cy="75" r="24" />
      <path class="root" d="M204 75L262 70M180 99L184 146M156 75L96 88" />
      <path class="root thick" d="M132 120C106 84 130 36 180 38C224 40 240 76 220 106" />
    </g>
    <g v-else-if="of === 'scratch'">
      <path class="branch thick" d="M20 96C120 76 220 70 340 40" />
      <path class="green" d="M150 78L214 70L216 76L152 84Z" />
      <path class="hand" d="M196 54C204 36 226 30 240 38L252 66C240 74 214 76 196 54Z" />
      <path class="line" d="M200 56C206 60 212 62 218 62" />
    </g>
    <g v-else-if="of === 'smell'">
      <path class="hand" d="M70 112C110 132 250 132 290 112C286 136 250 148 180 148C110 148 74 136 70 112Z" />
      <path class="soil edge" d="M96 116C110 78 250 78 264 116C220 128 140 128 96 116Z" />
      <path class="line" d="M140 66C134 54 148 46 142 32M180 62C174 48 188 40 182 24M220 66C214 54 228 46 222 32" />
    </g>
    <g v-else-if="of === 'place'">
      <path class="soil" d="M0 116H360V150H0Z" />
      <path class="wall" d="M246 20H360V116H246Z" />
      <path class="line" d="M246 52H360M246 84H360M290 20V52M320 52V84M280 84V116" />
      <path class="trunk" d="M190 116V74" />
      <path class="crown" d="M160 76C154 34 226 34 220 76Z" />
      <circle class="sun" cx="56" cy="40" r="20" />
      <path class="line" d="M88 48L146 62M84 62L140 86M0 116H360" />
    </g>
    <g v-else>
      <path class="soil" d="M0 56H360V150H0Z" />
      <path class="ball" d="M120 56H240L222 138H138Z" />
      <path class="trunk thick" d="M180 56V0" />
      <path class="line" d="M0 56H360" />
      <g v-if="of === 'ball_feel'">
        <path class="finger" d="M262 4L246 40L232 92" />
        <path class="line" d="M262 92H290M262 56V92" />
      </g>
      <g v-else-if="of === 'ring_feel'">
        <path class="finger" d="M322 4L308 40L300 92" />
        <path class="line" d="M240 40V70M300 40V56M240 44H300M248 40L240 44L248 48M292 40L300 44L292 48" />
      </g>
      <g v-else-if="of === 'flare'">
        <path class="wood" d="M172 20C170 44 158 54 138 62L130 70H230L222 62C202 54 190 44 188 20Z" />
        <path class="root" d="M134 66L96 78M226 66L264 78M160 70L148 96M200 70L212 96" />
        <path class="finger" d="M96 16L122 36L146 44" />
      </g>
      <g v-else-if="of === 'bark_base'">
        <path class="wood" d="M162 0H198V56H162Z" />
        <path class="pale" d="M166 30C176 24 188 30 190 56H168C164 46 162 36 166 30Z" />
        <path class="finger" d="M90 20L130 34L162 44" />
      </g>
      <g v-else-if="of === 'push'">
        <path class="finger" d="M90 22L130 22L170 22" />
        <path
          class="line"
          d="M206 12C218 16 224 24 226 36M226 36L218 30M226 36L231 28M146 56C140 50 132 48 124 50M214 56C220 50 228 48 236 50"
        />
      </g>
      <g v-else-if="of === 'crust'">
        <path class="crust" d="M60 56H130M230 56H300" />
        <circle v-for="x in [70, 90, 112, 244, 262, 284]" :key="x" class="pale" :cx="x" cy="50" r="5" />
      </g>
      <g v-else>
        <path class="wood" d="M166 0H194V56H166Z" />
        <path class="pale" d="M176 26C184 22 192 28 190 44C182 48 174 40 176 26Z" />
        <path class="tie" d="M160 12H200M160 18H200" />
      </g>
    </g>
  </svg>
</template>

<style scoped>
.picture {
  display: block;
  width: 100%;
  max-height: 170px;
}
.soil {
  fill: var(--soil);
}
.edge {
  stroke: var(--ink);
  stroke-width: 2;
}
.ball,
.wall {
  fill: var(--ball);
  stroke: var(--ink);
  stroke-width: 2;
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.trunk,
.branch {
  fill: none;
  stroke: var(--bark);
  stroke-width: 5;
  stroke-linecap: round;
}
.thick {
  stroke-width: 12;
  stroke-linecap: butt;
}
.wood {
  fill: var(--bark);
}
.root {
  fill: none;
  stroke: var(--root);
  stroke-width: 6;
  stroke-linecap: round;
}
.root.thick {
  stroke: var(--ink);
  stroke-width: 9;
}
.crown,
.leaf {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.droop,
.leaf.hang {
  fill: var(--straw);
  stroke: var(--ink);
  stroke-width: 2;
}
.sun {
  fill: var(--straw);
  stroke: var(--ink);
  stroke-width: 2;
}
.hand {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.finger {
  fill: none;
  stroke: var(--ink);
  stroke-width: 9;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.green {
  fill: var(--straw);
  stroke: var(--ink);
}
.pale {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.crust {
  fill: none;
  stroke: var(--ground);
  stroke-width: 8;
  stroke-dasharray: 6 4;
}
.tie {
  fill: none;
  stroke: var(--ink);
  stroke-width: 4;
}
</style>
