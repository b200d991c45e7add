<script setup lang="ts">
/** On a crew's phone: whose turn it is, and their PIN. */
import { nextTick, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import FormField from '@/components/common/FormField.vue'
import { useSession } from '@/composables/useSession'
import type { Schema } from '@/api/client'

const { t } = useI18n()
const { latest, takeTurn, goOut } = useSession()
const chosen = ref<Schema['Member'] | null>(null)
const pin = ref('')
const asked = ref(false)
const busy = ref(false)
const wrong = ref('')

async function choose(member: Schema['Member']) {
  chosen.value = member
  pin.value = wrong.value = ''
  await nextTick()
  document.getElementById('turn-pin')?.focus()
}
async function send() {
  if (!chosen.value || !pin.value) return
  busy.value = true
  wrong.value = ''
  try {
    await takeTurn(chosen.value.account_id, pin.value)
  } catch (e) {
    const why = (e as Error).message
    wrong.value = why === 'offline' ? t('common.offline') : why.charAt(0).toUpperCase() + why.slice(1)
    pin.value = ''
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <p v-if="!latest?.crew.length" class="warn">{{ t('account.nobodyHasPin') }}</p>
  <ul class="crew">
    <li v-for="m in latest?.crew ?? []" :key="m.account_id">
      <button type="button" class="button" :aria-pressed="m.account_id === chosen?.account_id" @click="choose(m)">
        {{ m.name }}
      </button>
    </li>
  </ul>
  <form v-if="chosen" class="pad" novalidate @submit.prevent="send">
    <FormField id="turn-pin" :label="t('account.pinOf', { name: chosen.name })" :error="wrong">
      <input
        id="turn-pin"
        v-model="pin"
        class="plain-input"
        type="password"
        inputmode="numeric"
        maxlength="8"
        autocomplete="off"
      />
    </FormField>
    <button class="button main" :disabled="busy || !pin">{{ t('account.begin') }}</button>
  </form>
  <div class="out">
    <template v-if="asked">
      <p>{{ t('account.notSharedAsk') }}</p>
      <button type="button" class="button" @click="goOut">{{ t('account.signOut') }}</button>
      <button type="button" class="button plain" @click="asked = false">{{ t('common.cancel') }}</button>
    </template>
    <button v-else type="button" class="button plain" @click="asked = true">{{ t('account.notShared') }}</button>
  </div>
</template>

<style scoped>
.crew {
  display: grid;
  gap: var(--space-3);
}
.crew .button {
  width: 100%;
  min-height: 64px;
  font-size: var(--text-3);
}
.crew .button[aria-pressed='true'] {
  border-width: 3px;
  font-weight: 600;
}
.pad {
  display: grid;
  gap: var(--space-4);
  margin: var(--space-5) 0;
}
.out {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-3);
}
.pad .button,
.pad input {
  min-height: 56px;
  font-size: var(--text-3);
}
</style>
