<script setup lang="ts">
/** One's own password, typed once where it can be seen. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import FormField from '@/components/common/FormField.vue'
import { saidOf, useSession } from '@/composables/useSession'

const emit = defineEmits<{ done: [] }>()
const { t } = useI18n()
const { latest, changePassword } = useSession()
const old = ref('')
const fresh = ref('')
const shown = ref(false)
const busy = ref(false)
const wrong = ref<Record<string, string>>({})
const failed = ref('')

async function send() {
  busy.value = true
  wrong.value = {}
  failed.value = ''
  try {
    await changePassword(old.value, fresh.value)
    old.value = fresh.value = ''
    emit('done')
  } catch (e) {
    for (const field of ['old', 'new']) if (saidOf(e, field)) wrong.value[field] = saidOf(e, field)
    if (!Object.keys(wrong.value).length) failed.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <form class="own" novalidate @submit.prevent="send">
    <input
      class="hidden"
      type="text"
      autocomplete="username"
      :value="latest?.me?.sign_in"
      tabindex="-1"
      aria-hidden="true"
    />
    <FormField
      id="own-old"
      :label="t(latest?.me?.must_change ? 'account.givenPassword' : 'account.oldPassword')"
      :error="wrong.old"
    >
      <input
        id="own-old"
        v-model="old"
        class="plain-input"
        type="password"
        maxlength="128"
        autocomplete="current-password"
      />
    </FormField>
    <FormField id="own-new" :label="t('account.newPassword')" :hint="t('account.passwordHint')" :error="wrong.new">
      <input
        id="own-new"
        v-model="fresh"
        class="plain-input"
        :type="shown ? 'text' : 'password'"
        maxlength="128"
        autocomplete="new-password"
      />
    </FormField>
    <label class="show"><input v-model="shown" type="checkbox" />{{ t('account.show') }}</label>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <button class="button main" :disabled="busy || !old || !fresh">{{ t('account.setPassword') }}</button>
  </form>
</template>

<style scoped>
.own {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
.own .field {
  width: 100%;
}
.hidden {
  position: absolute;
  left: -999px;
}
.show {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  min-height: var(--tap);
}
.show input {
  width: 24px;
  height: 24px;
}
</style>
