<script setup lang="ts">
/** The owner's account, the first one: from then on nobody comes in without signing in. */
import { reactive, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import SignInNameField from '@/components/account/SignInNameField.vue'
import FormField from '@/components/common/FormField.vue'
import { Problem, type Wrong } from '@/api/client'
import { useSession } from '@/composables/useSession'

const { t } = useI18n()
const { told, found } = useSession()
const form = reactive({ organisation: told.value?.organisation ?? '', name: '', sign_in: '', password: '' })
const errors = ref<Record<string, Wrong>>({})
const failed = ref('')
const busy = ref(false)

async function send() {
  errors.value = {}
  failed.value = ''
  for (const [name, value] of Object.entries(form)) if (!value.trim()) errors.value[name] = t('form.required')
  if (Object.keys(errors.value).length) return
  busy.value = true
  try {
    await found({ ...form })
  } catch (e) {
    errors.value = e instanceof Problem ? e.fields : {}
    if (!Object.keys(errors.value).length) failed.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <form class="found" novalidate @submit.prevent="send">
    <FormField id="f-organisation" :label="t('account.organisation')" :error="errors.organisation">
      <input id="f-organisation" v-model="form.organisation" class="plain-input" maxlength="80" autocomplete="off" />
    </FormField>
    <FormField id="f-name" :label="t('account.yourName')" :hint="t('account.nameHint')" :error="errors.name">
      <input id="f-name" v-model="form.name" class="plain-input" maxlength="80" autocomplete="name" />
    </FormField>
    <SignInNameField id="f-sign-in" v-model="form.sign_in" :hint="t('account.signInHint')" :error="errors.sign_in" />
    <FormField
      id="f-password"
      :label="t('account.password')"
      :hint="t('account.passwordHint')"
      :error="errors.password"
    >
      <input
        id="f-password"
        v-model="form.password"
        class="plain-input"
        type="password"
        maxlength="128"
        autocomplete="new-password"
      />
    </FormField>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <button class="button main" :disabled="busy">{{ t('account.found') }}</button>
  </form>
</template>

<style scoped>
.found {
  display: grid;
  gap: var(--space-4);
  max-width: 480px;
  justify-items: start;
}
.found .field {
  width: 100%;
}
</style>
