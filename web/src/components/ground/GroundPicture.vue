<script setup lang="ts">
/** The client's plan under the ground plan: brought as a picture, laid by two points of it and where they are. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, persist } from '@/api/client'
import { useActing } from '@/composables/useActing'
import type { Ground, Spot } from '@/logic/ground'
import { fixed } from '@/logic/numbers'
import { text } from '@/units'

/** spots: what was tapped on the map since placing began. */
const props = defineProps<{ ground: Ground; spots: readonly Spot[]; asking: boolean }>()
const emit = defineEmits<{ changed: [ground: Ground]; ask: [on: boolean] }>()
const { t } = useI18n()
const { busy, said, failed, act } = useActing(() => Promise.resolve())
const path = computed(() => ({ path: { site_id: props.ground.site_id } }))
/** Points of the picture, px. */
const points = ref<Spot[]>([])
const file = ref<HTMLInputElement | null>(null)
const picture = computed(() => props.ground.picture)
const address = computed(() => `/api/sites/${props.ground.site_id}/ground/picture?of=${picture.value?.name}`)
function bring() {
  const chosen = file.value?.files?.[0]
  if (!chosen) return
  void act(async () => {
    const form = new FormData()
    form.append('file', chosen)
    const options = { body: form as never, bodySerializer: (sent: unknown) => sent as FormData }
    emit(
      'changed',
      await persist(() => api.PUT('/api/sites/{site_id}/ground/picture', { params: path.value, ...options })),
    )
    begin()
  }, t('ground.pictureBrought'))
}
function begin() {
  points.value = []
  emit('ask', true)
}
function tap(e: MouseEvent) {
  if (!props.asking || points.value.length > props.spots.length || points.value.length >= 2) return
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  const { width_px, height_px } = picture.value!
  const x = ((e.clientX - box.left) / box.width) * width_px
  const y = ((e.clientY - box.top) / box.height) * height_px
  points.value = [...points.value, [Math.min(width_px, Math.max(0, x)), Math.min(height_px, Math.max(0, y))]]
}
const step = computed(() => {
  if (!props.asking) return ''
  const [there, here] = [points.value.length, props.spots.length]
  if (there === 2 && here >= 2) return 'ready'
  return there > here ? (here ? 'mapB' : 'mapA') : there ? 'pictureB' : 'pictureA'
})
const lay = () =>
  act(async () => {
    const body = {
      points: points.value.map(([px, py], n) => ({ px, py, at: props.spots[n]! })),
    }
    emit(
      'changed',
      await persist(() => api.PUT('/api/sites/{site_id}/ground/picture/points', { params: path.value, body })),
    )
    emit('ask', false)
  }, t('ground.pictureLies'))
const remove = () =>
  act(async () => {
    emit('changed', await persist(() => api.DELETE('/api/sites/{site_id}/ground/picture', { params: path.value })))
    emit('ask', false)
  }, t('ground.pictureGone'))
</script>

<template>
  <div>
    <p class="quiet">{{ t('ground.pictureWords') }}</p>
    <div class="field">
      <label for="ground-picture">{{ t(picture ? 'ground.pictureOther' : 'ground.pictureBring') }}</label>
      <input id="ground-picture" ref="file" type="file" accept="image/jpeg,image/png,image/webp" @change="bring" />
    </div>
    <template v-if="picture">
      <p v-if="picture.m_per_px && !asking" class="quiet">
        {{
          t('ground.pictureAs', {
            across: text('large', picture.m_per_px * picture.width_px, 0),
            turned: fixed(picture.turned_deg ?? 0, 0),
          })
        }}
      </p>
      <p v-else-if="!asking" class="warn">{{ t('ground.pictureNotPlaced') }}</p>
      <p v-if="step" class="asks" role="status">{{ t(`ground.step.${step}`) }}</p>
      <div v-if="asking" class="sheet">
        <img
          :src="address"
          :alt="t('ground.pictureAlt')"
          :style="{ aspectRatio: picture.width_px / picture.height_px }"
          @click="tap"
        />
        <span
          v-for="([x, y], n) in points"
          :key="n"
          class="pin"
          :style="{ left: `${(100 * x) / picture.width_px}%`, top: `${(100 * y) / picture.height_px}%` }"
          >{{ n + 1 }}</span
        >
      </div>
      <div class="buttons">
        <button v-if="step === 'ready'" type="button" class="button main" :disabled="busy" @click="lay">
          {{ t('ground.pictureLay') }}
        </button>
        <button type="button" class="button" @click="begin">{{ t('ground.picturePlace') }}</button>
        <button v-if="asking" type="button" class="button" @click="emit('ask', false)">{{ t('boxes.cancel') }}</button>
        <button type="button" class="button plain" :disabled="busy" @click="remove">
          {{ t('ground.pictureRemove') }}
        </button>
      </div>
    </template>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </div>
</template>

<style scoped>
.sheet {
  position: relative;
  border: 1px solid var(--ink);
  cursor: crosshair;
}
.sheet img {
  display: block;
  width: 100%;
}
.pin {
  position: absolute;
  transform: translate(-50%, -50%);
  background: var(--water);
  color: var(--on-dark);
  font-weight: 600;
  border-radius: 50%;
  width: 30px;
  line-height: 30px;
  text-align: center;
  pointer-events: none;
}
.asks {
  font-size: var(--text-2);
  font-weight: 600;
  margin: var(--space-2) 0;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
</style>
