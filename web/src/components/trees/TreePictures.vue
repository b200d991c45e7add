<script setup lang="ts">
/** A tree's pictures: then and now side by side, all of them below, one more at any time. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import PictureInput from '@/components/common/PictureInput.vue'
import PictureDialog from '@/components/trees/PictureDialog.vue'
import { useActing } from '@/composables/useActing'
import { useDevice } from '@/composables/useDevice'
import { pictureUrl, usePictures, type Occasion } from '@/composables/usePictures'
import { useResource } from '@/composables/useResource'
import { fullDay } from '@/logic/dates'

/** occasion, entryId: what a picture that is added belongs to. */
const props = defineProps<{ treeId: string; occasion: Occasion; entryId?: string | null; brief?: boolean }>()
const { t } = useI18n()
const { ensurePerson } = useDevice()
const { data, load } = useResource(
  (signal) => take(api.GET('/api/trees/{tree_id}/pictures', { params: { path: { tree_id: props.treeId } }, signal })),
  [() => props.treeId],
  { live: true },
)
type Shown = Schema['PictureOut']
const every = computed<Shown[]>(() => data.value ?? [])
const mine = computed(() => (props.brief ? every.value.filter((one) => one.occasion === props.occasion) : every.value))
const { taken, add, drop, clear, send } = usePictures()
const { busy, said, failed, act } = useActing(load)
async function keep(files: File[]) {
  add(files)
  await again()
}
async function again() {
  const n = taken.value.length
  const done = await act(
    async () => {
      if (!(await ensurePerson())) return null
      await send(props.treeId, props.occasion, props.entryId ?? null)
      return true
    },
    t('pictures.kept', { n }, n),
    { typed: false },
  )
  if (done) clear()
}
const shown = ref('')
/** The oldest and the newest, until somebody picks others. */
function pickedOr(usual: () => Shown | undefined) {
  const picked = ref('')
  return computed({
    get: () => (every.value.some((one) => one.id === picked.value) ? picked.value : (usual()?.id ?? '')),
    set: (id: string) => (picked.value = id),
  })
}
const then = pickedOr(() => every.value.at(-1))
const now = pickedOr(() => every.value[0])
const dayOf = (id: string) => every.value.find((one) => one.id === id)?.day ?? ''
const named = (one: Shown) => `${fullDay(one.day)}, ${t(`pictures.at.${one.occasion}`)}`
const sides = computed(() => [
  { key: 'then', model: then },
  { key: 'now', model: now },
])
</script>

<template>
  <section class="tree-pictures no-print" :aria-label="t('pictures.title')">
    <h2>{{ t('pictures.title') }}</h2>
    <div v-if="!brief && every.length > 1" class="sides">
      <figure v-for="side in sides" :key="side.key">
        <label :for="`picture-${side.key}`" class="narrow">{{ t(`pictures.${side.key}`) }}</label>
        <select :id="`picture-${side.key}`" v-model="side.model.value" class="plain-input">
          <option v-for="one in every" :key="one.id" :value="one.id">{{ named(one) }}</option>
        </select>
        <button type="button" class="large" @click="shown = side.model.value">
          <img
            v-if="side.model.value"
            :src="pictureUrl(side.model.value)"
            :alt="t('pictures.large', { day: fullDay(dayOf(side.model.value)) })"
          />
        </button>
      </figure>
    </div>
    <ul v-if="mine.length" class="all">
      <li v-for="one in mine" :key="one.id">
        <button type="button" @click="shown = one.id">
          <img :src="pictureUrl(one.id, true)" :alt="t('pictures.large', { day: named(one) })" loading="lazy" />
          <span class="narrow">{{ fullDay(one.day) }}</span>
        </button>
      </li>
    </ul>
    <p v-else-if="data" class="quiet">{{ t('pictures.none') }}</p>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <PictureInput :id="`add-${occasion}`" :taken="taken" :disabled="busy" @add="keep" @drop="drop" />
    <button v-if="failed && taken.length" type="button" class="button main" :disabled="busy" @click="again">
      {{ t('pictures.again') }}
    </button>
    <PictureDialog v-model:shown="shown" :pictures="every" :reload="load" />
  </section>
</template>

<style scoped>
.tree-pictures {
  display: grid;
  gap: var(--space-3);
  margin: var(--space-4) 0 var(--space-6);
}
h2 {
  font-size: var(--text-3);
  border-bottom: 2px solid var(--ink);
}
.sides {
  max-width: 900px;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--space-4);
}
figure {
  display: grid;
  gap: var(--space-1);
  align-content: start;
  margin: 0;
  min-width: 0;
}
select {
  min-width: 0;
  min-height: var(--tap);
  padding: 0 var(--space-2);
  font-family: var(--condensed);
  border: 1px solid var(--edge);
  border-radius: 2px;
  background: var(--paper);
}
button img {
  display: block;
  object-fit: cover;
}
.large,
.all button {
  padding: 0;
  border: 1px solid var(--hair);
  background: none;
  cursor: pointer;
  text-align: left;
  color: inherit;
}
.large img {
  width: 100%;
  aspect-ratio: 4 / 3;
}
.all {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: var(--space-3);
  list-style: none;
  padding: 0;
}
.all button {
  width: 100%;
}
.all img {
  width: 100%;
  aspect-ratio: 1;
}
.all span {
  display: block;
  padding: var(--space-1) var(--space-2);
}
</style>
