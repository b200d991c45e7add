<script setup lang="ts">
/** Asked where the same amount was logged for the same tree a moment ago. */
import { useI18n } from 'vue-i18n'
import { answered, asking } from '@/composables/useAgain'

const { t } = useI18n()
</script>

<template>
  <el-dialog :model-value="asking" :title="t('again.title')" width="min(440px, 92vw)" @close="answered(false)">
    <p>{{ t('again.words') }}</p>
    <div class="acts">
      <button type="button" class="button main" @click="answered(false)">{{ t('again.no') }}</button>
      <button type="button" class="button" @click="answered(true)">{{ t('again.yes') }}</button>
    </div>
  </el-dialog>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  margin-top: var(--space-5);
}
</style>
