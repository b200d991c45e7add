<script setup lang="ts">
/** What lies at a site besides its trees: listed, put by taps, taken away. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import type { Thing } from '@/components/ground/ShowThing.vue'
import type { Ground } from '@/logic/ground'

type Kind = Schema['GroundThingIn']['kind']
const props = defineProps<{ ground: Ground; busy: boolean }>()
const emit = defineEmits<{ ask: [what: Thing]; remove: [id: string] }>()
const { t } = useI18n()
const kind = ref<Kind>('hydrant')
const name = ref('')
const begin = () => emit('ask', { ...props.ground.kinds.find((one) => one.kind === kind.value)!, name: name.value })
</script>

<template>
  <div>
    <ul>
      <li v-for="one in ground.things" :key="one.id">
        <span
          >{{ t(`ground.kind.${one.kind}`) }}<template v-if="one.name">: {{ one.name }}</template></span
        >
        <button
          type="button"
          class="button plain"
          :disabled="busy"
          :aria-label="`${t('ground.takeAway')}: ${one.name || t(`ground.kind.${one.kind}`)}`"
          @click="emit('remove', one.id)"
        >
          {{ t('ground.takeAway') }}
        </button>
      </li>
    </ul>
    <p v-if="!ground.things.length" class="quiet">{{ t('ground.noThings') }}</p>
    <div class="field">
      <label for="thing-kind">{{ t('ground.what') }}</label>
      <select id="thing-kind" v-model="kind" class="plain-input">
        <option v-for="one in ground.kinds" :key="one.kind" :value="one.kind">
          {{ t(`ground.kind.${one.kind}`) }}
        </option>
      </select>
    </div>
    <div class="field">
      <label for="thing-name">{{ t('ground.named') }}</label>
      <input id="thing-name" v-model="name" class="plain-input" autocomplete="off" maxlength="80" />
    </div>
    <button type="button" class="button" @click="begin">{{ t('ground.addThing') }}</button>
  </div>
</template>

<style scoped>
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-3);
  border-bottom: 1px solid var(--hair);
}
.field {
  margin: var(--space-2) 0;
}
</style>
