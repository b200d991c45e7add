<script setup lang="ts">
/** What lies in the yard, counted: loose mulch, compost and what is mixed into holes. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, take, type Schema } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { text } from '@/units'

const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const { data, load } = useResource((signal) => take(api.GET('/api/yard', { signal })))
const there = computed(() => (data.value ?? []).filter((r) => r.litres > 0))
const material = ref<Schema['YardRow']['material']>('wood_chips')
const litres = ref<number | null>(null)
const { busy, said, failed, act } = useActing(async () => {
  await load()
  emit('changed')
})
let id = newId()
async function count(reason: Schema['MoveIn']['reason']) {
  const done = await act(
    () =>
      persist(() =>
        api.PUT('/api/yard-moves/{move_id}', {
          params: { path: { move_id: id } },
          body: { material: material.value, reason, litres: litres.value ?? 0, note: '' },
        }),
      ),
    t('order.counted'),
  )
  if (done) {
    id = newId()
    litres.value = null
  }
}
</script>

<template>
  <section>
    <h2 class="ruled-head spaced">{{ t('order.yardTitle') }}</h2>
    <ul class="there">
      <li v-for="r in there" :key="r.material">
        <strong>{{ text('bulk', r.litres, 0) }}</strong> {{ t(`material.${r.material}`) }}
      </li>
      <li v-if="!there.length" class="quiet">{{ t('order.yardEmpty') }}</li>
    </ul>
    <div class="fields">
      <FormField id="y-material" :label="t('mulch.material')">
        <select id="y-material" v-model="material">
          <option v-for="r in data ?? []" :key="r.material" :value="r.material">
            {{ t(`material.${r.material}`) }}
          </option>
        </select>
      </FormField>
      <QuantityInput
        id="y-litres"
        v-model="litres"
        dimension="bulk"
        :digits="0"
        :label="t('order.lies')"
        :hint="t('order.countHint')"
      />
      <div class="acts">
        <button type="button" class="button" :disabled="busy || litres === null" @click="count('counted')">
          {{ t('order.count') }}
        </button>
        <button type="button" class="button" :disabled="busy || !litres" @click="count('bought')">
          {{ t('order.boughtIn') }}
        </button>
      </div>
    </div>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </section>
</template>

<style scoped>
section {
  margin-top: var(--space-6);
}
.there {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1) var(--space-6);
  margin-bottom: var(--space-3);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: var(--space-3) var(--space-5);
  align-items: start;
}
.acts {
  display: flex;
  gap: var(--space-2);
  padding-top: var(--space-6);
}
</style>
