<script setup lang="ts">
/** How a day's ETo came about, line by line. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, Problem, take, type Schema } from '@/api/client'
import WorkingLines from '@/components/common/WorkingLines.vue'
import { fullDay } from '@/logic/dates'

const props = defineProps<{ stationId: string; day: Schema['WeatherDayOut'] | null }>()
defineEmits<{ close: [] }>()
const { t } = useI18n()
const made = ref<Schema['EtoWorking'] | null>(null)
const failed = ref('')
watch(
  () => props.day,
  async (asked) => {
    made.value = null
    failed.value = ''
    if (!asked) return
    try {
      made.value = await take(
        api.GET('/api/stations/{station_id}/days/{day}/eto', {
          params: { path: { station_id: props.stationId, day: asked.day } },
        }),
      )
    } catch (e) {
      failed.value = e instanceof Problem && e.detail !== 'offline' ? e.detail : t('common.offline')
    }
  },
)
</script>

<template>
  <el-dialog
    :model-value="day !== null"
    :title="day ? t('weather.etoOf', { day: fullDay(day.day) }) : ''"
    width="min(620px, 96vw)"
    @close="$emit('close')"
  >
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <WorkingLines v-if="made" :lines="made.lines" />
  </el-dialog>
</template>
