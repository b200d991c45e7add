<script setup lang="ts">
/** Boxes at a site's valves: whether they answer, what they ran and will run; the owner enters and changes them. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import BoxForm from '@/components/boxes/BoxForm.vue'
import BoxRuns from '@/components/boxes/BoxRuns.vue'
import BoxState from '@/components/boxes/BoxState.vue'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'

const props = defineProps<{ siteId: string }>()
const { t } = useI18n()
const { may } = useSession()
const { data, load } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/boxes', { params: { path: { site_id: props.siteId } }, signal })),
  [() => props.siteId],
)
const { data: lines } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/lines', { params: { path: { site_id: props.siteId } }, signal })),
  [() => props.siteId],
)
const editing = ref<string | null>(null)
const { busy, said, failed, act } = useActing(load)
function put(box: Schema['BoxOut']) {
  data.value = (data.value ?? []).map((one) => (one.id === box.id ? box : one))
}
const ask = (box: Schema['BoxOut']) =>
  act(
    async () => put(await take(api.POST('/api/boxes/{box_id}/ask', { params: { path: { box_id: box.id } } }))),
    t('boxes.asked', { name: box.name }),
  )
const close = (box: Schema['BoxOut']) =>
  act(
    () => take(api.PUT('/api/boxes/{box_id}/closed', { params: { path: { box_id: box.id } }, body: { closed: true } })),
    t('boxes.closed', { name: box.name }),
  )
function saved() {
  editing.value = null
  void load()
}
const shows = computed(() => Boolean(data.value?.length || (lines.value?.length && may('owner'))))
</script>

<template>
  <section v-if="shows" id="boxes">
    <h2 class="ruled-head apart">{{ t('boxes.title') }}</h2>
    <p class="quiet">{{ t('boxes.words') }}</p>
    <article v-for="box in data" :key="box.id">
      <h3>{{ box.name }}</h3>
      <BoxState :box="box" />
      <p class="quiet">
        {{ box.outlets.map((one) => t('boxes.outlet', { n: one.number, line: one.line_name })).join('; ') }}
      </p>
      <BoxRuns :box="box" :runs="box.runs" :left="box.left" days @changed="put" />
      <p v-if="!box.runs.length && !box.left.length" class="quiet">{{ t('boxes.noRuns') }}</p>
      <div class="buttons no-print">
        <button type="button" class="button" :disabled="busy" @click="ask(box)">{{ t('boxes.ask') }}</button>
        <template v-if="may('owner')">
          <button type="button" class="button plain" @click="editing = box.id">{{ t('common.edit') }}</button>
          <button type="button" class="button plain" :disabled="busy" @click="close(box)">
            {{ t('boxes.close') }}
          </button>
        </template>
      </div>
      <BoxForm
        v-if="editing === box.id"
        :site-id="siteId"
        :box="box"
        :lines="lines ?? []"
        @saved="saved"
        @cancel="editing = null"
      />
    </article>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <template v-if="may('owner')">
      <BoxForm
        v-if="editing === ''"
        :site-id="siteId"
        :box="null"
        :lines="lines ?? []"
        @saved="saved"
        @cancel="editing = null"
      />
      <button v-else type="button" class="button no-print" @click="editing = ''">{{ t('boxes.add') }}</button>
    </template>
  </section>
</template>

<style scoped>
article {
  margin: var(--space-4) 0;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-3);
  margin: var(--space-3) 0;
}
</style>
