<script setup lang="ts">
/** What is one's own: password, PIN, going out. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import PasswordForm from '@/components/account/PasswordForm.vue'
import { useActing } from '@/composables/useActing'
import { useSession } from '@/composables/useSession'

const { t } = useI18n()
const { told, me, goOut, handOn, changePin, may } = useSession()
const { busy, said, failed, act } = useActing(async () => undefined)
const opened = ref<'' | 'password' | 'pin'>('')
const pin = ref('')
const done = ref('')
const role = computed(() => me.value && t(`account.role.${told.value?.shared ? 'technician' : me.value.role}`))

function open(what: 'password' | 'pin') {
  opened.value = opened.value === what ? '' : what
  done.value = ''
}
async function putPin(value: string | null) {
  const words = t(value === null ? 'account.pinGone' : 'account.pinSet')
  if (await act(async () => (await changePin(value)) ?? true, words, { typed: false })) {
    pin.value = ''
    opened.value = ''
  }
}
/** The address of one's own calendar; another one, and the old one is nobody's. */
const calendar = ref('')
function askCalendar(renew: boolean) {
  const ask = async () => {
    const { path } = await take(api.PUT('/api/calendar', { params: { query: { renew } } }))
    return (calendar.value = location.origin + path)
  }
  return act(ask, renew ? t('care.renewed') : '', { typed: false })
}
function passwordDone() {
  opened.value = ''
  done.value = t('account.passwordSet')
}
</script>

<template>
  <section v-if="me">
    <h2>{{ me.name }}</h2>
    <p class="large">{{ t('account.asIn', { role: role ?? '', organisation: told?.organisation ?? '' }) }}</p>
    <p role="status" class="said">{{ said || done }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div class="acts">
      <template v-if="told?.shared">
        <button type="button" class="button main" @click="handOn">{{ t('account.handOn') }}</button>
      </template>
      <template v-else>
        <button type="button" class="button" :aria-expanded="opened === 'password'" @click="open('password')">
          {{ t('account.changePassword') }}
        </button>
        <button type="button" class="button" :aria-expanded="opened === 'pin'" @click="open('pin')">
          {{ t(me.has_pin ? 'account.changePin' : 'account.givePin') }}
        </button>
        <button v-if="may('technician')" type="button" class="button" :disabled="busy" @click="askCalendar(false)">
          {{ t('account.calendar') }}
        </button>
        <button type="button" class="button" @click="goOut">{{ t('account.signOut') }}</button>
      </template>
    </div>
    <div v-if="calendar" class="calendar">
      <p>{{ t('account.calendarWords') }}</p>
      <code>{{ calendar }}</code>
      <button type="button" class="button plain" :disabled="busy" @click="askCalendar(true)">
        {{ t('care.renew') }}
      </button>
    </div>
    <PasswordForm v-if="opened === 'password'" class="form" @done="passwordDone" />
    <form v-if="opened === 'pin'" class="form" novalidate @submit.prevent="putPin(pin)">
      <FormField id="own-pin" :label="t('account.pin')" :hint="t('account.pinHint')">
        <input
          id="own-pin"
          v-model="pin"
          class="plain-input"
          type="password"
          inputmode="numeric"
          maxlength="8"
          autocomplete="off"
        />
      </FormField>
      <div class="acts">
        <button class="button main" :disabled="busy || !pin">{{ t('common.save') }}</button>
        <button v-if="me.has_pin" type="button" class="button plain" :disabled="busy" @click="putPin(null)">
          {{ t('account.takePin') }}
        </button>
      </div>
    </form>
  </section>
</template>

<style scoped>
.calendar {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
  max-width: 640px;
}
.calendar code {
  overflow-wrap: anywhere;
}
.large {
  font-size: var(--text-3);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  margin-top: var(--space-3);
}
.form {
  max-width: 440px;
  margin-top: var(--space-4);
  display: grid;
  gap: var(--space-3);
}
</style>
