<script setup lang="ts">
/** An address that nothing stands at. */
import { useI18n } from 'vue-i18n'
import { missing } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'

const { t } = useI18n()
const error = missing('')
</script>

<template>
  <PageFrame :error="error">
    <template #title
      ><h1 class="visually-hidden">{{ t('error.missing') }}</h1></template
    >
  </PageFrame>
</template>
