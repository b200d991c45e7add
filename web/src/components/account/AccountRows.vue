<script setup lang="ts">
/** Who may come in and as what: made, changed, given a new password, closed. The owner's. */
import { nextTick, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, Problem, take, type Schema, type Wrong } from '@/api/client'
import SignInNameField from '@/components/account/SignInNameField.vue'
import FormField from '@/components/common/FormField.vue'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { useSession } from '@/composables/useSession'

const ROLES = ['technician', 'lead', 'owner', 'client'] as const
const { t } = useI18n()
const { me, look } = useSession()
const emit = defineEmits<{ changed: [] }>()
const { data, load } = useResource((signal) => take(api.GET('/api/accounts', { signal })))
const { busy, said, failed, act } = useActing(async () => {
  await load()
  await look()
  emit('changed')
})
/** The password of a new account, or after a reset: told once, until the next act. */
const secret = ref<Schema['AccountOut'] | null>(null)
const blank = () => ({
  id: newId(),
  name: '',
  sign_in: '',
  role: 'technician',
  closed: false,
  version: null as number | null,
})
const form = ref<ReturnType<typeof blank> | null>(null)
const errors = ref<Record<string, Wrong>>({})

async function open(account: Schema['AccountOut'] | null) {
  secret.value = null
  errors.value = {}
  form.value = account ? { ...blank(), ...account } : blank()
  await nextTick()
  document.getElementById('a-name')?.focus()
}
async function save() {
  if (!form.value) return
  const { id, name, sign_in, role, closed, version } = form.value
  errors.value = {}
  for (const [field, value] of [
    ['name', name],
    ['sign_in', sign_in],
  ] as const)
    // prettier-ignore
    if (!value.trim()) errors.value[field] = t('form.required')
  if (Object.keys(errors.value).length) return
  const body = { name, sign_in, role, closed, version } as Schema['AccountIn']
  const put = async () => {
    try {
      const made = await take(api.PUT('/api/accounts/{account_id}', { params: { path: { account_id: id } }, body }))
      secret.value = made.password ? made : null
      form.value = null
      return made
    } catch (e) {
      if (e instanceof Problem) errors.value = e.fields
      throw e
    }
  }
  await act(put, t(version === null ? 'account.made' : 'account.saved', { name }), { typed: false })
}
function close(account: Schema['AccountOut'], closed: boolean) {
  secret.value = null
  const { id, name, sign_in, role, version } = account
  const body = { name, sign_in, role, closed, version }
  const put = () => take(api.PUT('/api/accounts/{account_id}', { params: { path: { account_id: id } }, body }))
  return act(put, t(closed ? 'account.closedSaid' : 'account.openedSaid', { name }), { typed: false })
}
const asked = ref('')
function reset(account: Schema['AccountOut']) {
  asked.value = ''
  const path = { account_id: account.id }
  const send = async () => {
    secret.value = await take(api.POST('/api/accounts/{account_id}/password', { params: { path } }))
    return secret.value
  }
  return act(send, t('account.resetSaid', { name: account.name }), { typed: false })
}
</script>

<template>
  <section>
    <div class="head">
      <h2>{{ t('account.who') }}</h2>
      <button type="button" class="button main" @click="open(null)">{{ t('account.add') }}</button>
    </div>
    <p role="status" class="said">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div v-if="secret" class="secret">
      <p>{{ t('account.secretOf', { name: secret.name }) }}</p>
      <p class="word">{{ secret.password }}</p>
      <p class="quiet">{{ t('account.secretWords', { name: secret.sign_in }) }}</p>
    </div>
    <form v-if="form" class="edit" novalidate @submit.prevent="save">
      <FormField id="a-name" :label="t('account.name')" :hint="t('account.nameHint')" :error="errors.name">
        <input id="a-name" v-model="form.name" class="plain-input" maxlength="80" autocomplete="off" />
      </FormField>
      <SignInNameField
        id="a-sign-in"
        v-model="form.sign_in"
        :hint="t('account.signInHint')"
        :error="errors.sign_in"
        autocomplete="off"
      />
      <FormField id="a-role" :label="t('account.as')" :hint="t(`account.may.${form.role}`)" :error="errors.role">
        <select id="a-role" v-model="form.role" class="plain-input">
          <option v-for="r in ROLES" :key="r" :value="r">{{ t(`account.role.${r}`) }}</option>
        </select>
      </FormField>
      <div class="acts">
        <button class="button main" :disabled="busy">{{ t('common.save') }}</button>
        <button type="button" class="button" @click="form = null">{{ t('common.cancel') }}</button>
      </div>
    </form>
    <ul>
      <li v-for="a in data ?? []" :key="a.id" :class="{ gone: a.closed }">
        <div class="which">
          <strong>{{ a.name }}</strong>
          <span>{{ t(`account.role.${a.role}`) }}</span>
          <small>
            {{ t('account.signsIn', { name: a.sign_in }) }}
            {{ a.closed ? t('account.isClosed') : a.must_change ? t('account.hasNotComeIn') : '' }}
            {{ a.has_pin && !a.closed ? t('account.hasPin') : '' }}
          </small>
        </div>
        <div class="acts">
          <template v-if="asked === a.id">
            <span>{{ t('account.resetAsk') }}</span>
            <button type="button" class="button" :disabled="busy" @click="reset(a)">{{ t('account.resetYes') }}</button>
            <button type="button" class="button plain" @click="asked = ''">{{ t('common.cancel') }}</button>
          </template>
          <template v-else>
            <button
              v-if="!a.closed"
              type="button"
              class="button"
              :aria-label="t('account.edit', { name: a.name })"
              @click="open(a)"
            >
              {{ t('common.edit') }}
            </button>
            <button
              v-if="!a.closed && a.id !== me?.account_id"
              type="button"
              class="button plain"
              @click="asked = a.id"
            >
              {{ t('account.reset') }}
            </button>
            <button
              v-if="a.id !== me?.account_id"
              type="button"
              class="button plain"
              :disabled="busy"
              @click="close(a, !a.closed)"
            >
              {{ t(a.closed ? 'account.open' : 'account.close') }}
            </button>
          </template>
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--space-4);
  flex-wrap: wrap;
}
.secret {
  border-left: 4px solid var(--ink);
  padding: var(--space-2) var(--space-4);
  margin: var(--space-3) 0;
}
.word {
  font-size: var(--text-4);
  font-weight: 600;
  overflow-wrap: anywhere;
}
.edit {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: var(--space-3) var(--space-5);
  padding: var(--space-4) 0;
  border-bottom: 1px solid var(--hair);
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: var(--space-2) var(--space-5);
  padding: var(--space-3) 0;
  border-bottom: 1px solid var(--hair);
}
.which {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
  align-items: baseline;
  flex: 1 1 240px;
}
.which strong {
  font-size: var(--text-3);
}
.which small {
  flex-basis: 100%;
  font-size: var(--text-1);
  color: var(--ink-2);
}
.gone strong {
  text-decoration: line-through;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-2) var(--space-3);
}
</style>
