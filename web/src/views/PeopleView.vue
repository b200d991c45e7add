<script setup lang="ts">
/** People: oneself, who may come in, on which phones, and who changed settings. Without accounts: how to begin. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import AccountRows from '@/components/account/AccountRows.vue'
import AuditRows from '@/components/account/AuditRows.vue'
import DeviceRows from '@/components/account/DeviceRows.vue'
import FoundForm from '@/components/account/FoundForm.vue'
import LateRows from '@/components/account/LateRows.vue'
import OwnAccount from '@/components/account/OwnAccount.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useSession } from '@/composables/useSession'

const { t } = useI18n()
const { told, me, may } = useSession()
const changes = ref(0)
</script>

<template>
  <PageFrame :title="t('account.people')">
    <section v-if="told?.is_open" class="begin">
      <p class="large">{{ t('account.openWords') }}</p>
      <h2>{{ t('account.first') }}</h2>
      <p>{{ t('account.firstWords') }}</p>
      <FoundForm />
    </section>
    <div v-else class="parts">
      <OwnAccount />
      <LateRows v-if="may('owner')" />
      <AccountRows v-if="may('owner')" @changed="changes++" />
      <DeviceRows :key="me?.account_id" />
      <AuditRows v-if="may('owner')" :key="changes" />
    </div>
  </PageFrame>
</template>

<style scoped>
.begin {
  display: grid;
  gap: var(--space-4);
  max-width: 640px;
}
.parts {
  display: grid;
  gap: var(--space-7);
  max-width: 880px;
}
.large {
  font-size: var(--text-3);
}
:deep(h2) {
  font-size: var(--text-4);
}
</style>
