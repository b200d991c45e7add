<script setup lang="ts">
/** Phones and computers that are signed in; each can be signed out from here. */
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'
import { moment } from '@/logic/dates'

const { t } = useI18n()
const { goOut } = useSession()
const { data, load } = useResource((signal) => take(api.GET('/api/devices', { signal })))
const { busy, said, failed, act } = useActing(load)

const called = (device: Schema['DeviceOut']) => device.name || t('account.someDevice')
function out(device: Schema['DeviceOut']) {
  if (device.here) return goOut()
  const params = { path: { device_id: device.id } }
  const send = async () => (await take(api.POST('/api/devices/{device_id}/sign-out', { params }))) ?? true
  return act(send, t('account.deviceOut', { name: called(device) }), { typed: false })
}
</script>

<template>
  <section>
    <h2>{{ t('account.devices') }}</h2>
    <p role="status" class="said">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <ul>
      <li v-for="d in data ?? []" :key="d.id">
        <span>
          <strong>{{ called(d) }}</strong>{{ d.shared ? t('account.crewPhone') : ''
          }}{{ d.here ? t('account.here') : '' }}
          <small>{{ t('account.seen', { name: d.person ?? '', when: moment(d.seen_at) }) }}</small>
        </span>
        <button
          type="button"
          class="button plain"
          :disabled="busy"
          :aria-label="t('account.signOutOf', { name: called(d) })"
          @click="out(d)"
        >
          {{ t('account.signOut') }}
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-4);
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
small {
  display: block;
  font-size: var(--text-1);
  color: var(--ink-2);
}
</style>
