<script setup lang="ts">
/** Links that show this site to a client: made, copied, taken back. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, take, type Schema } from '@/api/client'
import ActButton from '@/components/common/ActButton.vue'
import FormField from '@/components/common/FormField.vue'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'
import { civilDay, fullDay, moment } from '@/logic/dates'
import { nowMs } from '@/offline/time'

const MONTHS_MS = 180 * 86_400_000
const props = defineProps<{ siteId: string }>()
const { t } = useI18n()
const { may } = useSession()
const { data, load } = useResource(
  (signal) => take(api.GET('/api/sites/{site_id}/shares', { params: { path: { site_id: props.siteId } }, signal })),
  [() => props.siteId],
)
const { busy, said, failed, act } = useActing(load)
const links = computed(() => (data.value ?? []).filter((one) => !one.revoked))
const name = ref('')
const ends = ref(civilDay(nowMs() + MONTHS_MS))
let id = newId()
async function make() {
  const body = { site_id: props.siteId, name: name.value, ends_on: ends.value }
  const send = () => persist(() => api.PUT('/api/shares/{share_id}', { params: { path: { share_id: id } }, body }))
  if (!(await act(send, t('share.made', { name: name.value })))) return
  id = newId()
  name.value = ''
}
const address = (one: Schema['ShareOut']) => location.origin + one.path
const copied = ref('')
async function copy(one: Schema['ShareOut']) {
  await navigator.clipboard.writeText(address(one))
  copied.value = one.id
}
const sure = ref('')
function revoke(one: Schema['ShareOut']) {
  if (sure.value !== one.id) return (sure.value = one.id)
  sure.value = ''
  const params = { path: { share_id: one.id } }
  return act(() => take(api.PUT('/api/shares/{share_id}/revoked', { params })), t('share.revoked', { name: one.name }))
}
</script>

<template>
  <section v-if="may('lead')" class="no-print">
    <h2 class="ruled-head apart">{{ t('share.head') }}</h2>
    <p>{{ t('share.words') }}</p>
    <form class="make" @submit.prevent="make">
      <FormField id="share-name" :label="t('share.forWhom')">
        <input id="share-name" v-model="name" class="plain-input" maxlength="80" autocomplete="off" />
      </FormField>
      <FormField id="share-ends" :label="t('share.ends')">
        <input id="share-ends" v-model="ends" class="plain-input" type="date" />
      </FormField>
      <ActButton :disabled="busy || !name.trim() || !ends" @act="make">{{ t('share.make') }}</ActButton>
    </form>
    <p role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <ul>
      <li v-for="one in links" :key="one.id">
        <strong>{{ one.name }}</strong>
        <span class="quiet">
          {{ t('share.until', { day: fullDay(one.ends_on) }) }},
          {{ one.seen_at ? t('share.seen', { when: moment(one.seen_at) }) : t('share.notSeen') }}
        </span>
        <code>{{ address(one) }}</code>
        <span class="acts">
          <button type="button" class="button" :aria-label="t('share.copyFor', { name: one.name })" @click="copy(one)">
            {{ t(copied === one.id ? 'care.copied' : 'share.copy') }}
          </button>
          <button
            type="button"
            class="button plain"
            :disabled="busy"
            :aria-label="t('share.revokeFor', { name: one.name })"
            @click="revoke(one)"
          >
            {{ t(sure === one.id ? 'share.revokeSure' : 'share.revoke') }}
          </button>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.make {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
  align-items: end;
  margin: var(--space-3) 0;
}
li {
  display: grid;
  gap: var(--space-2);
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
}
code {
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
}
</style>
