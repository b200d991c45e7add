<script setup lang="ts">
/** The plan as GeoJSON: taken out for a GIS, brought in after a look at what it would do. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist, take, type Schema } from '@/api/client'
import { useActing } from '@/composables/useActing'

const props = defineProps<{ siteId: string }>()
const emit = defineEmits<{ stored: [] }>()
const { t } = useI18n()
const { busy, said, failed, act } = useActing(() => Promise.resolve())
const input = ref<HTMLInputElement | null>(null)
const found = ref<Schema['GroundFileOut'] | null>(null)
const turn = ref(false)
function sending() {
  const form = new FormData()
  form.append('file', input.value!.files![0]!)
  return {
    params: { path: { site_id: props.siteId }, query: { turn: turn.value } },
    body: form as never,
    bodySerializer: (sent: unknown) => sent as FormData,
  }
}
function look(turned = false) {
  found.value = null
  turn.value = turned
  if (!input.value?.files?.length) return
  void act(async () => {
    found.value = await take(api.POST('/api/sites/{site_id}/ground/look', sending()))
  }, '')
}
const store = () =>
  act(async () => {
    found.value = await persist(() => api.PUT('/api/sites/{site_id}/ground/file', sending()))
    emit('stored')
  }, t('ground.fileStored'))
const brings = computed(() => {
  const f = found.value!
  return [
    f.trees && t('ground.fileTrees', { n: f.trees, tags: f.tags.join(', ') }, f.trees),
    f.stops && t('ground.fileStops', { n: f.stops }, f.stops),
    f.things && t('ground.fileThings', { n: f.things }, f.things),
    f.same && t('ground.fileSame', { n: f.same }, f.same),
  ].filter(Boolean)
})
const isNew = computed(() => Boolean(found.value && found.value.trees + found.value.stops + found.value.things))
</script>

<template>
  <div>
    <p class="quiet">{{ t('ground.fileWords') }}</p>
    <p>
      <a class="out" :href="`/api/sites/${siteId}/ground.geojson`">{{ t('ground.fileOut') }}</a>
    </p>
    <div v-lead class="field">
      <label for="ground-file">{{ t('ground.fileIn') }}</label>
      <input id="ground-file" ref="input" type="file" accept=".geojson,.json,application/geo+json" @change="look()" />
    </div>
    <template v-if="found">
      <template v-if="found.turned">
        <p class="warn">{{ t('ground.fileTurned') }}</p>
        <button type="button" class="button main" :disabled="busy" @click="look(true)">
          {{ t('ground.fileTurn') }}
        </button>
      </template>
      <template v-else>
        <ul>
          <li v-for="words in brings" :key="String(words)">{{ words }}</li>
          <li v-for="one in found.refused" :key="one.number" class="warn">
            {{ t('ground.fileRefused', { n: one.number, why: one.why }) }}
          </li>
        </ul>
        <button v-if="!found.stored && isNew" type="button" class="button main" :disabled="busy" @click="store">
          {{ t('ground.fileStore') }}
        </button>
        <p v-else-if="!found.stored" class="quiet">{{ t('ground.fileNothing') }}</p>
      </template>
    </template>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </div>
</template>

<style scoped>
.out {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
</style>
