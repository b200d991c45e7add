<script setup lang="ts">
/** Another amount than the planned one, in a dialog of its own. */
import { useI18n } from 'vue-i18n'
import AmountStepper from '@/components/today/AmountStepper.vue'

defineProps<{ title: string; planned: number }>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ log: [litres: number] }>()
const { t } = useI18n()
function log(litres: number) {
  emit('log', litres)
  open.value = false
}
</script>

<template>
  <el-dialog v-model="open" :title="title" width="min(460px, 94vw)" destroy-on-close>
    <AmountStepper :planned="planned" @log="log">{{ t('today.amount') }}</AmountStepper>
  </el-dialog>
</template>
