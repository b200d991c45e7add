<script setup lang="ts">
/** Before everything else: sign in, take one's turn, or choose a password of one's own. What is typed behind it stays. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import LanguageSwitch from '@/components/common/LanguageSwitch.vue'
import PasswordForm from '@/components/account/PasswordForm.vue'
import SignInForm from '@/components/account/SignInForm.vue'
import TurnPad from '@/components/account/TurnPad.vue'
import { usePageTitle } from '@/composables/usePageTitle'
import { useSession } from '@/composables/useSession'
import { useOutbox } from '@/offline/outbox'

const { t } = useI18n()
const { latest, wasIn, goOut } = useSession()
const { waits } = useOutbox()
const what = computed(() => (latest.value?.me?.must_change ? 'choose' : latest.value?.shared ? 'turn' : 'signIn'))
const title = computed(() => t(`account.gate.${what.value}`))
usePageTitle(() => title.value)
</script>

<template>
  <div class="gate no-print">
    <main id="main" tabindex="-1">
      <div class="head">
        <p class="program">{{ latest?.organisation ?? t('app.name') }}</p>
        <LanguageSwitch class="button" />
      </div>
      <h1>{{ title }}</h1>
      <p v-if="wasIn && what === 'signIn'">{{ t('account.signedOut') }}</p>
      <p v-if="waits.length && what !== 'choose'">{{ t('signal.waitHere', waits.length) }}</p>
      <p v-if="what === 'choose'">{{ t('account.chooseWords', { name: latest?.me?.name ?? '' }) }}</p>
      <PasswordForm v-if="what === 'choose'" />
      <TurnPad v-else-if="what === 'turn'" />
      <SignInForm v-else />
      <button v-if="what === 'choose'" type="button" class="button plain" @click="goOut">
        {{ t('account.signOut') }}
      </button>
    </main>
    <svg class="ground" viewBox="0 0 1200 200" preserveAspectRatio="none" aria-hidden="true">
      <path class="soil" d="M0 60H1200V200H0Z" />
      <path class="wet" d="M520 60L552 150H648L680 60Z" />
      <path class="line" d="M0 60H1200M600 60V0" />
    </svg>
  </div>
</template>

<style scoped>
.gate {
  position: fixed;
  inset: 0;
  z-index: 60;
  overflow-y: auto;
  background: var(--ground);
  display: flex;
  flex-direction: column;
}
main {
  width: min(440px, 100%);
  margin: 0 auto;
  padding: var(--space-7) var(--space-4) var(--space-6);
  display: grid;
  gap: var(--space-4);
  outline: none;
}
.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: var(--space-3);
}
h1 {
  font-size: var(--text-5);
}
.program {
  font-size: var(--text-3);
  color: var(--ink-2);
}
.ground {
  display: block;
  width: 100%;
  height: 140px;
  margin-top: auto;
  flex: none;
}
.soil {
  fill: var(--soil);
}
.wet {
  fill: var(--water-fill);
  stroke: var(--ink);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
  fill: none;
  vector-effect: non-scaling-stroke;
}
@media (max-width: 767px) {
  main {
    padding-top: var(--space-5);
  }
}
</style>
