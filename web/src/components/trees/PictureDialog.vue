<script setup lang="ts">
/** A picture as large as there is room, with when, at what and by whom it was taken; the one before and after it. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, type Schema } from '@/api/client'
import { useActing } from '@/composables/useActing'
import { pictureUrl } from '@/composables/usePictures'
import { fullDay } from '@/logic/dates'

type Shown = Pick<Schema['PictureOut'], 'id' | 'day' | 'occasion' | 'person'>
/** shown: the picture's id, none = closed; pictures: the newest first. */
const shown = defineModel<string>('shown', { required: true })
const props = defineProps<{ pictures: Shown[]; reload: () => Promise<unknown> }>()
const { t } = useI18n()
const at = computed(() => props.pictures.findIndex((one) => one.id === shown.value))
const one = computed(() => props.pictures[at.value])
const open = computed({ get: () => !!one.value, set: (now) => !now && (shown.value = '') })
const sure = ref(false)
watch(shown, () => (sure.value = false))
const words = (of: Shown) => [t(`pictures.at.${of.occasion}`), of.person ?? ''].filter(Boolean).join(', ')
const { busy, failed, act } = useActing(() => props.reload())
async function remove() {
  const id = shown.value
  const gone = await act(
    async () => {
      await persist(() => api.DELETE('/api/pictures/{picture_id}', { params: { path: { picture_id: id } } }))
      return true
    },
    '',
    { typed: false },
  )
  if (gone) shown.value = ''
}
</script>

<template>
  <el-dialog v-model="open" :title="one ? fullDay(one.day) : ''" width="min(980px, 96vw)" top="4vh">
    <template v-if="one">
      <img :src="pictureUrl(one.id)" :alt="t('pictures.of', { day: fullDay(one.day), at: words(one) })" />
      <p class="quiet">{{ words(one) }}</p>
      <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
      <p class="acts">
        <button
          type="button"
          class="button"
          :disabled="at >= pictures.length - 1"
          @click="shown = pictures[at + 1]!.id"
        >
          {{ t('pictures.older') }}
        </button>
        <button type="button" class="button" :disabled="at <= 0" @click="shown = pictures[at - 1]!.id">
          {{ t('pictures.newer') }}
        </button>
        <span v-if="sure" class="sure">
          {{ t('pictures.sure') }}
          <button type="button" class="button" :disabled="busy" @click="remove">{{ t('pictures.remove') }}</button>
          <button type="button" class="button plain" @click="sure = false">{{ t('pictures.keep') }}</button>
        </span>
        <button v-else type="button" class="button plain" @click="sure = true">{{ t('pictures.remove') }}</button>
      </p>
    </template>
  </el-dialog>
</template>

<style scoped>
img {
  display: block;
  max-width: 100%;
  max-height: 68vh;
  margin: 0 auto var(--space-3);
}
.acts {
  margin-top: var(--space-3);
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
}
.sure {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
  align-items: center;
}
</style>
