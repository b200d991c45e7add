<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'
import { lost } from '@/api/connection'
import EmptyPlace from '@/components/common/EmptyPlace.vue'
import LanguageSwitch from '@/components/common/LanguageSwitch.vue'
import NavIcon from '@/components/common/NavIcon.vue'
import SignalStrip from '@/components/common/SignalStrip.vue'
import DayStepper from '@/components/common/DayStepper.vue'
import { useClock } from '@/composables/useClock'
import { asking } from '@/composables/useAgain'
import { useDevice } from '@/composables/useDevice'
import { useKeys } from '@/composables/useKeys'
import { useSession } from '@/composables/useSession'
import { later, onceOpen } from '@/composables/useLater'
import { dialogs } from '@/i18n'
import { PLACES, placeOf, type Place } from '@/logic/places'
import { system, toggleSystem } from '@/units'

const { t } = useI18n()
const router = useRouter()
const route = useRoute()
const { refresh } = useClock()
const { latest, me, mustComeIn, wasIn, look, may } = useSession()
const KEYS: Record<Place, string> = {
  today: 't',
  ahead: 'a',
  trees: 'r',
  sites: 's',
  weather: 'w',
  rehearse: 'h',
  book: 'b',
}
const places = PLACES.map((name) => ({ name, key: KEYS[name] }))
const phone = ['today', 'ahead', 'trees', 'more'] as const
const help = ref(false)
const KeysDialog = later(() => import('@/components/common/KeysDialog.vue'))
const PersonDialog = later(() => import('@/components/common/PersonDialog.vue'))
const SignInGate = later(() => import('@/components/account/SignInGate.vue'))
const AgainDialog = later(() => import('@/components/common/AgainDialog.vue'))
const helped = onceOpen(help)
const asked = onceOpen(useDevice().asking)
const askedAgain = onceOpen(asking)
let leader = -Infinity

onMounted(() => void look().catch(() => undefined))
watch(wasIn, (is) => is && void refresh().catch(() => undefined))

/** A client who signs in has one place: what is shared with them. */
const isClient = computed(() => me.value !== null && !may('technician'))
watch([isClient, () => route.meta.needs], ([is, needs]) => is && needs !== 'client' && void router.replace('/shared'), {
  immediate: true,
})
/** For whoever has the link, signed in or not. */
const isOpen = computed(() => route.meta.open === true)
const allowed = computed(() => may(route.meta.needs ?? 'technician'))
const place = computed(() => placeOf(route.path))
const here = (name: string) =>
  name === place.value ||
  (name === 'more' && (route.path === '/more' || ['sites', 'weather', 'rehearse', 'book'].includes(place.value ?? '')))

useKeys((key, e) => {
  if (mustComeIn.value) return
  const place = places.find((p) => p.key === key)
  if (performance.now() - leader < 1200 && place) {
    leader = -Infinity
    void router.push({ name: place.name })
  } else if (key === 'g') leader = performance.now()
  else if (key === 'u') toggleSystem()
  else if (key === 'n') void router.push({ name: 'tree-new' })
  else if (key === '/') {
    e.preventDefault()
    void router.push({ name: 'trees', query: { find: '1' } })
  } else if (key === '?') help.value = true
})
</script>

<template>
  <a class="skip" href="#main">{{ t('app.skip') }}</a>
  <SignInGate v-if="mustComeIn && !isOpen" />
  <p v-if="!latest && lost" class="lost no-print" role="status">{{ t('app.lost') }}</p>
  <main v-if="isOpen" id="main" class="alone" tabindex="-1"><RouterView /></main>
  <div v-else-if="wasIn" class="frame" :inert="mustComeIn">
    <nav v-if="!isClient" class="rail no-print" :aria-label="t('app.nav')">
      <RouterLink
        v-for="p in places"
        :key="p.name"
        :to="{ name: p.name }"
        :aria-current="here(p.name) ? 'page' : undefined"
      >
        <NavIcon :name="p.name" />{{ t(`nav.${p.name}`) }}
      </RouterLink>
      <span class="grow" />
      <DayStepper class="stepper" />
      <RouterLink class="who" :to="{ name: 'people' }" :aria-current="route.path === '/people' ? 'page' : undefined">
        <NavIcon name="people" />{{ me?.name ?? t('account.short') }}
      </RouterLink>
      <button
        type="button"
        class="units"
        :aria-label="
          t('units.switch', { now: t(`units.${system}`), other: t(`units.${system === 'us' ? 'metric' : 'us'}`) })
        "
        @click="toggleSystem"
      >
        {{ t(`units.${system}`) }}
      </button>
      <LanguageSwitch class="units" />
    </nav>
    <main id="main" tabindex="-1" :class="{ alone: isClient }">
      <SignalStrip />
      <EmptyPlace v-if="!allowed" class="page" :title="t('account.leads')" :words="t('account.leadsWords')" />
      <el-config-provider v-else :locale="dialogs"><RouterView /></el-config-provider>
    </main>
    <nav v-if="!isClient" class="bar no-print" :aria-label="t('app.nav')">
      <RouterLink v-for="p in phone" :key="p" :to="{ name: p }" :aria-current="here(p) ? 'page' : undefined">
        <NavIcon :name="p" />{{ t(`nav.${p}`) }}
      </RouterLink>
    </nav>
  </div>
  <el-config-provider :locale="dialogs">
    <PersonDialog v-if="asked" />
    <AgainDialog v-if="askedAgain" />
    <KeysDialog v-if="helped" v-model="help" />
  </el-config-provider>
</template>

<style scoped>
.switch {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  min-height: var(--tap);
  margin-top: var(--space-3);
}
.switch input {
  width: 24px;
  height: 24px;
}
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 8px;
  top: 8px;
  z-index: 100;
  background: var(--ground);
  padding: var(--space-3);
}
.frame {
  min-height: 100vh;
}
main {
  margin-left: var(--rail);
  outline: none;
}
main.alone {
  margin-left: 0;
}
.rail {
  position: fixed;
  inset: 0 auto 0 0;
  width: var(--rail);
  background: var(--ink);
  display: flex;
  flex-direction: column;
  padding: var(--space-2) 0;
  overflow-y: auto;
  z-index: 20;
}
.rail a,
.bar a {
  color: var(--rail-ink);
  text-decoration: none;
  font-family: var(--condensed);
  font-weight: 500;
  font-size: var(--text-1);
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 2px;
}
.rail a {
  min-height: 62px;
  flex: none;
  border-left: 4px solid transparent;
}
.rail a[aria-current] {
  color: var(--on-dark);
  border-left-color: var(--on-dark);
  font-weight: 600;
}
.lost {
  position: sticky;
  top: 0;
  z-index: 15;
  margin: 0;
  padding: var(--space-2) var(--space-6);
  background: var(--straw);
  color: var(--ink);
  font-weight: 600;
}
.grow {
  flex: 1;
}
.rail :focus-visible,
.bar :focus-visible {
  outline-color: var(--on-dark);
  outline-offset: -4px;
}
.units {
  margin: var(--space-1) var(--space-2);
  min-height: var(--tap);
  flex: none;
  border: 1px solid var(--rail-edge);
  background: transparent;
  color: var(--on-dark);
  font-weight: 600;
  cursor: pointer;
  border-radius: 2px;
}
.bar {
  display: none;
}
@media (max-width: 767px) {
  main {
    margin: 0;
    padding-bottom: 64px; /* a margin of a page that is still empty would move everything */
  }
  .rail {
    display: none;
  }
  .bar {
    position: fixed;
    inset: auto 0 0 0;
    height: 64px;
    background: var(--ink);
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    z-index: 20;
  }
  .bar a {
    border-top: 4px solid transparent;
  }
  .bar a[aria-current] {
    color: var(--on-dark);
    border-top-color: var(--on-dark);
    font-weight: 600;
  }
}
@media print {
  .frame {
    min-height: 0;
  }
  main {
    margin: 0;
    padding: 0;
  }
}
</style>
