<script setup lang="ts">
/** The places' marks, drawn from the same soil line. */
defineProps<{
  name:
    | 'today'
    | 'ahead'
    | 'trees'
    | 'sites'
    | 'weather'
    | 'rehearse'
    | 'book'
    | 'more'
    | 'kinds'
    | 'copy'
    | 'people'
    | 'waiting'
}>()
</script>

<template>
  <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true">
    <g fill="none" stroke="currentColor" stroke-width="1.8" stroke-linecap="round" stroke-linejoin="round">
      <template v-if="name === 'today'">
        <path d="M13 3c4 5 6 7.6 6 10.4a6 6 0 0 1-12 0C7 10.600 9 8 13 3Z" />
        <path d="M3 22.500h20" />
      </template>
      <template v-else-if="name === 'trees'"><path d="M2 14h22M13 14V3M9 6l4 3 4-4M7 14l2 8h8l2-8" /></template>
      <template v-else-if="name === 'sites'">
        <path d="M3 9h20M3 15c4-2 6 2 10 0s6 2 10 0M3 21c4-2 6 2 10 0s6 2 10 0M8 9V4h7l-2 2 2 2H8" />
      </template>
      <template v-else-if="name === 'weather'">
        <circle cx="13" cy="9" r="4.200" />
        <path
          d="M13 1.500v1.500M5.500 9H4M22 9h-1.500M7.700 3.700l1 1M18.300 3.700l-1 1M8 18l-1.500 4M13.500 18 12 22M19 18l-1.500 4"
        />
      </template>
      <template v-else-if="name === 'ahead'">
        <path d="M2 8c4 0 5 5 9 5s5-3 7-3 3 1 6 1M3 22v-5M9 22v-7M15 22v-4M21 22v-8" />
      </template>
      <template v-else-if="name === 'rehearse'">
        <path d="M2 5h22M3 5c3 0 4 8 8 8s4-5 12-5M3 5c2 0 3 15 9 15s5-8 11-8" />
      </template>
      <template v-else-if="name === 'book'">
        <path
          d="M13 6c-3-2-6-2-10-2v17c4 0 7 0 10 2 3-2 6-2 10-2V4c-4 0-7 0-10 2zM13 6v17M6 9h3M6 13h3M17 9h3M17 13h3"
        />
      </template>
      <template v-else-if="name === 'kinds'">
        <path d="M5 21C4 11 9 4 21 4c1 11-5 17-14 15M4 23c2-6 6-10 11-13" />
      </template>
      <template v-else-if="name === 'copy'"><path d="M8 8h14v14H8zM4 18V4h14M15 12v6M12 15l3 3 3-3" /></template>
      <template v-else-if="name === 'waiting'"><path d="M3 21h20M13 17V4M8 9l5-5 5 5M4 4l18 13" /></template>
      <template v-else-if="name === 'people'">
        <path
          d="M9 12a4 4 0 1 0 0-8 4 4 0 0 0 0 8ZM2 22c0-5 3-7 7-7s7 2 7 7M17 5a3.500 3.500 0 0 1 0 7M19 15c3 .6 5 3 5 7"
        />
      </template>
      <template v-else><path d="M4 7h18M4 13h18M4 19h18" /></template>
    </g>
  </svg>
</template>
