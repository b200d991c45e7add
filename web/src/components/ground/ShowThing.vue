<script setup lang="ts">
/** A thing of a site being shown on the map, spot after spot: one for a hydrant, more along a wall or round a bed. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'

export type Thing = Schema['GroundKind'] & { name: string }
/** spots: how many were shown. */
const props = defineProps<{ thing: Thing; spots: number; busy: boolean }>()
defineEmits<{ finish: []; back: []; leave: [] }>()
const { t } = useI18n()
const asks = computed(() => {
  if (props.thing.shape === 'point') return t('ground.tapThing')
  return t(`ground.${props.thing.shape === 'line' ? 'tapThings' : 'tapCorners'}`, { n: props.spots }, props.spots)
})
</script>

<template>
  <section>
    <p class="asks">
      {{ t(`ground.kind.${thing.kind}`) }}<template v-if="thing.name">, {{ thing.name }}</template>
    </p>
    <p class="asks" role="status">{{ asks }}</p>
    <p class="quiet">{{ t('ground.orKeys') }}</p>
    <div class="buttons">
      <button
        v-if="thing.shape !== 'point'"
        type="button"
        class="button main tall"
        :disabled="busy || spots < thing.least"
        @click="$emit('finish')"
      >
        {{ t('ground.finish') }}
      </button>
      <button v-if="spots" type="button" class="button tall" @click="$emit('back')">{{ t('ground.spotBack') }}</button>
      <button type="button" class="button tall" @click="$emit('leave')">{{ t('ground.leaveIt') }}</button>
    </div>
  </section>
</template>

<style scoped>
.asks {
  font-size: var(--text-3);
  font-weight: 600;
}
.tall {
  min-height: 56px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
</style>
