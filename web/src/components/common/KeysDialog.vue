<script setup lang="ts">
/** What the keys do. */
import { useI18n } from 'vue-i18n'
import { keysOn } from '@/composables/useKeys'

const open = defineModel<boolean>({ required: true })
const { t } = useI18n()
const KEYS = { g: 'g', '/': 'slash', n: 'n', w: 'w', u: 'u', '?': 'help' }
</script>

<template>
  <el-dialog v-model="open" :title="t('keys.title')" width="min(440px, 92vw)">
    <dl class="keys">
      <template v-for="(word, key) in KEYS" :key="key">
        <dt>{{ key }}</dt>
        <dd>{{ t(`keys.${word}`) }}</dd>
      </template>
    </dl>
    <label class="switch"><input v-model="keysOn" type="checkbox" />{{ t('keys.on') }}</label>
  </el-dialog>
</template>

<style scoped>
.keys {
  display: grid;
  grid-template-columns: 40px 1fr;
  gap: var(--space-3);
}
.keys dt {
  font-weight: 600;
}
</style>
