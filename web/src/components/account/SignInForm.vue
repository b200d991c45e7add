<script setup lang="ts">
/** Name and password; in the demo its people, to be tapped. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import SignInNameField from '@/components/account/SignInNameField.vue'
import FormField from '@/components/common/FormField.vue'
import { saidOf, useSession } from '@/composables/useSession'

const { t } = useI18n()
const { latest, comeIn } = useSession()
const name = ref('')
const password = ref('')
const shared = ref(false)
const busy = ref(false)
const wrong = ref<Record<string, string>>({})
const failed = ref('')

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)

async function send(sign_in: string, word: string) {
  busy.value = true
  wrong.value = {}
  failed.value = ''
  try {
    await comeIn({ sign_in, password: word, shared: shared.value })
  } catch (e) {
    for (const field of ['password', 'shared']) if (saidOf(e, field)) wrong.value[field] = capital(saidOf(e, field))
    if (!Object.keys(wrong.value).length) {
      const why = (e as Error).message
      failed.value = why === 'offline' ? t('common.offline') : capital(why)
    }
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <section v-if="latest?.tries.length" class="tries">
    <h2>{{ t('account.tryAs') }}</h2>
    <p class="quiet">{{ t('account.tryWords') }}</p>
    <ul>
      <li v-for="p in latest.tries" :key="p.sign_in">
        <button type="button" class="button" :disabled="busy" @click="send(p.sign_in, p.password)">
          <strong>{{ p.name }}</strong>
          <span>{{ t(`account.role.${p.role}`) }}, {{ p.organisation }}</span>
        </button>
      </li>
    </ul>
  </section>
  <h2 v-if="latest?.tries.length" class="or">{{ t('account.orName') }}</h2>
  <form class="form" novalidate @submit.prevent="send(name, password)">
    <SignInNameField id="in-name" v-model="name" />
    <FormField id="in-password" :label="t('account.password')" :error="wrong.password">
      <input
        id="in-password"
        v-model="password"
        class="plain-input"
        type="password"
        maxlength="128"
        autocomplete="current-password"
      />
    </FormField>
    <label class="shared">
      <input v-model="shared" type="checkbox" />
      <span
        >{{ t('account.shared') }}<small>{{ t('account.sharedWords') }}</small></span
      >
    </label>
    <p v-if="wrong.shared" class="warn" role="alert">{{ wrong.shared }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <button class="button main" :disabled="busy || !name || !password">{{ t('account.signIn') }}</button>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: var(--space-4);
}
.form > .button {
  min-height: 56px;
  font-size: var(--text-3);
}
.shared {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  min-height: 56px;
}
.shared input {
  width: 24px;
  height: 24px;
  flex: none;
}
.shared small {
  display: block;
  font-size: var(--text-1);
  color: var(--ink-2);
}
.or {
  margin-top: var(--space-5);
}
.tries {
  display: grid;
  gap: var(--space-2);
}
.tries ul {
  display: grid;
  gap: var(--space-3);
  margin-top: var(--space-2);
}
.tries .button {
  width: 100%;
  min-height: 64px;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 0 var(--space-4);
  padding: var(--space-3) var(--space-4);
  text-align: left;
}
.tries strong {
  font-size: var(--text-3);
}
</style>
