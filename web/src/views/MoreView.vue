<script setup lang="ts">
/** On a phone: the other places, and what belongs to this device. */
import { useI18n } from 'vue-i18n'
import PageFrame from '@/components/common/PageFrame.vue'
import DayStepper from '@/components/common/DayStepper.vue'
import LanguageSwitch from '@/components/common/LanguageSwitch.vue'
import NavIcon from '@/components/common/NavIcon.vue'
import { useDevice } from '@/composables/useDevice'
import { useSession } from '@/composables/useSession'
import { system, toggleSystem } from '@/units'

const { t } = useI18n()
const { person, asking } = useDevice()
const { told, me, may } = useSession()
</script>

<template>
  <PageFrame :title="t('more.title')">
    <ul>
      <li v-for="p in ['sites', 'weather', 'rehearse', 'book'] as const" :key="p">
        <RouterLink :to="{ name: p }"><NavIcon :name="p" />{{ t(`nav.${p}`) }}</RouterLink>
      </li>
      <li>
        <RouterLink :to="{ name: 'plants' }"><NavIcon name="kinds" />{{ t('more.plants') }}</RouterLink>
      </li>
      <li>
        <RouterLink :to="{ name: 'people' }"><NavIcon name="people" />{{ me?.name ?? t('account.people') }}</RouterLink>
      </li>
      <li>
        <RouterLink :to="{ name: 'waiting' }"><NavIcon name="waiting" />{{ t('signal.short') }}</RouterLink>
      </li>
      <li v-if="may('owner')">
        <RouterLink :to="{ name: 'copy' }"><NavIcon name="copy" />{{ t('copy.title') }}</RouterLink>
      </li>
      <li v-if="told?.is_open" class="row">
        <span>{{ t('more.people') }}</span>
        <button type="button" class="button" @click="asking = true">{{ person?.name ?? t('person.nobody') }}</button>
      </li>
      <li class="row">
        <span>{{ t('more.units') }}</span>
        <button type="button" class="button" @click="toggleSystem">{{ t(`units.${system}`) }}</button>
      </li>
      <li class="row">
        <span>{{ t('more.language') }}</span>
        <LanguageSwitch class="button" />
      </li>
    </ul>
    <DayStepper class="stepper" />
  </PageFrame>
</template>

<style scoped>
ul {
  border-top: 2px solid var(--ink);
}
li {
  border-bottom: 1px solid var(--hair);
}
li a,
.row {
  min-height: 64px;
  display: flex;
  align-items: center;
  gap: var(--space-4);
  font-size: var(--text-3);
  color: inherit;
  text-decoration: none;
}
.row {
  justify-content: space-between;
}
.stepper {
  background: var(--ink);
  padding: var(--space-4);
  margin-top: var(--space-6);
  font-size: var(--text-2);
}
</style>
