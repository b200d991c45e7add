<script setup lang="ts">
/** What the lines and signs of a drip drawing mean, those that are on it only, with how many fittings of each there are. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import type { Wrong } from '@/logic/caught'

/** wrong: what a catch test found. */
const props = defineProps<{ look: Schema['DripLook']; crown: boolean; wrong: readonly Wrong[] }>()
const { t } = useI18n()
const LINES = ['ball', 'roots', 'later', 'crown'] as const
const KINDS = ['tee', 'closure', 'coupler', 'pin'] as const
const lines = computed(() => LINES.filter((line) => line !== 'crown' || props.crown))
const counts = computed(() =>
  KINDS.map((kind) => ({ kind, n: props.look.fittings.filter((f) => f.kind === kind).length })).filter((c) => c.n > 0),
)
</script>

<template>
  <ul class="key drip-drawing">
    <li v-for="line in lines" :key="line">
      <svg width="28" height="14" aria-hidden="true">
        <path :class="line === 'later' ? 'roots later' : line" d="M1 7H27" /></svg
      >{{ t(`drip.key.${line}`) }}
    </li>
    <li>
      <svg width="18" height="14" aria-hidden="true"><circle class="wet" cx="9" cy="7" r="6" /></svg
      >{{ t('drip.key.wet') }}
    </li>
    <li v-for="kind in wrong" :key="kind">
      <svg width="22" height="22" viewBox="-11 -11 22 22" aria-hidden="true">
        <path v-if="kind === 'blocked'" class="fault" d="M-7-7L7 7M7-7L-7 7" />
        <path v-else-if="kind === 'weak'" class="fault" d="M-7 7L0-7L7 7Z" />
        <circle v-else class="fault" r="8" /></svg
      >{{ t(`drip.key.${kind}`) }}
    </li>
    <li v-for="c in counts" :key="c.kind">
      <svg width="18" height="14" viewBox="-9 -7 18 14" aria-hidden="true">
        <path v-if="c.kind === 'pin'" class="pin" d="M-4-4L4 4M4-4L-4 4" />
        <rect v-else-if="c.kind === 'tee'" class="tee" x="-5" y="-5" width="10" height="10" />
        <path v-else-if="c.kind === 'coupler'" class="coupler" d="M-7-5V5M7-5V5M-7 0H7" />
        <path v-else class="closure" d="M-6-6L6 6M-6 6L6-6" /></svg
      >{{ t(`drip.fitting.${c.kind}`, c.n) }}
    </li>
  </ul>
</template>

<style scoped>
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 2px var(--space-4);
  font-family: var(--condensed);
  font-size: var(--text-1);
}
li {
  display: inline-flex;
  gap: var(--space-2);
  align-items: center;
}
</style>
