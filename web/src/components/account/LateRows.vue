<script setup lang="ts">
/** What phones hold that were signed out meanwhile: an owner lets it in or not. */
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { moment } from '@/logic/dates'

const { t } = useI18n()
const { data, load } = useResource((signal) => take(api.GET('/api/late', { signal })), [], { live: true })
const { busy, said, failed, act } = useActing(load)
function answer(of: Schema['LateOut'], said: 'yes' | 'no') {
  const params = { path: { device_id: of.device_id, said } }
  const words = t(said === 'yes' ? 'account.late.let' : 'account.late.kept', {
    name: of.person ?? (of.name || t('account.someDevice')),
  })
  return act(() => take(api.PUT('/api/devices/{device_id}/late/{said}', { params })), words, { typed: false })
}
</script>

<template>
  <section v-if="data?.length || said">
    <h2>{{ t('account.late.title') }}</h2>
    <p role="status" class="said">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <article v-for="of in data ?? []" :key="of.device_id">
      <p>
        {{
          t('account.late.words', {
            name: of.person ?? '',
            phone: of.name || t('account.someDevice'),
            when: moment(of.asked_at),
          })
        }}
      </p>
      <ul>
        <li v-for="(item, n) in of.items" :key="n">
          {{ item.words }} <span class="quiet">{{ moment(item.made_at) }}</span>
        </li>
      </ul>
      <div class="ways">
        <button type="button" class="button" :disabled="busy" @click="answer(of, 'yes')">
          {{ t('account.late.yes') }}
        </button>
        <button type="button" class="button plain" :disabled="busy" @click="answer(of, 'no')">
          {{ t('account.late.no') }}
        </button>
      </div>
    </article>
  </section>
</template>

<style scoped>
li {
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  padding: var(--space-3) 0;
}
</style>
