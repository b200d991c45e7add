<script setup lang="ts">
/** What a client sees of a site by a link: its trees, what is planned for them, a month of its book. Read only. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take } from '@/api/client'
import MonthBody from '@/components/book/MonthBody.vue'
import LanguageSwitch from '@/components/common/LanguageSwitch.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useResource } from '@/composables/useResource'
import { fullDay, longDay, monthsOn, monthYear } from '@/logic/dates'
import { percent } from '@/logic/numbers'
import { isUs, system, text, toggleSystem } from '@/units'
import { treeName } from '@/i18n'

const props = defineProps<{ secret: string }>()
const { t } = useI18n()
const month = ref<string | undefined>()
const { data, error, loading, load } = useResource(
  (signal) =>
    take(
      api.GET('/api/shared/{secret}', {
        params: { path: { secret: props.secret }, query: { month: month.value } },
        signal,
      }),
    ),
  [() => props.secret, month],
)
const words = ref('')
const trees = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  const all = data.value?.trees ?? []
  return wanted
    ? all.filter((one) =>
        [one.tag, one.place, one.stop, treeName(one.common), one.botanical].join(' ').toLowerCase().includes(wanted),
      )
    : all
})
const SHORT = 50
const all = ref(false)
const shown = computed(() => (all.value ? trees.value : trees.value.slice(0, SHORT)))
const plan = computed(() => (data.value?.plan ?? []).filter((day) => day.trees))
const turn = (months: number) => (month.value = monthsOn(data.value!.month.first, months))
const isLast = computed(() => !data.value || data.value.month.first.slice(0, 7) === data.value.today.slice(0, 7))
const print = () => window.print()
</script>

<template>
  <PageFrame :error="error" :loading="loading && !data" @retry="load">
    <template #title>
      <h1>{{ data?.month.site_name ?? t('share.title') }}</h1>
    </template>
    <template #beside>
      <span class="acts no-print">
        <LanguageSwitch class="button" />
        <button type="button" class="button" @click="toggleSystem">{{ t(`units.${system}`) }}</button>
        <button type="button" class="button" :disabled="!data" @click="print">{{ t('bookPage.print') }}</button>
      </span>
    </template>
    <template v-if="data">
      <p>{{ t('share.by', { by: data.organisation, name: data.name, day: fullDay(data.ends_on) }) }}</p>
      <section>
        <h2>{{ t('share.plan') }}</h2>
        <p v-if="!plan.length">{{ t('share.noPlan') }}</p>
        <ul class="plan">
          <li v-for="day in plan" :key="day.day">
            <strong>{{ longDay(day.day) }}</strong>
            {{
              t('share.day', { n: day.trees, amount: text('volume', isUs ? day.litres_us : day.litres, 0) }, day.trees)
            }}
          </li>
        </ul>
      </section>
      <section>
        <h2>{{ t('share.trees', { n: data.trees.length }, data.trees.length) }}</h2>
        <div class="field no-print">
          <label for="shared-find">{{ t('share.find') }}</label>
          <input id="shared-find" v-model="words" class="plain-input" type="search" autocomplete="off" />
        </div>
        <ul class="trees">
          <li v-for="one in shown" :key="one.id">
            <strong>{{ one.tag }}</strong>
            <span
              >{{ treeName(one.common) }} <i>{{ one.botanical }}</i></span
            >
            <span class="quiet">{{ [one.stop, one.place].filter(Boolean).join(', ') }}</span>
            <span>{{
              one.dryness === null ? t('share.unknown') : t('share.dry', { share: percent(one.dryness) })
            }}</span>
            <span class="quiet">{{
              one.next_on ? t('share.next', { day: longDay(one.next_on) }) : t('share.noNext')
            }}</span>
          </li>
        </ul>
        <button v-if="shown.length < trees.length" type="button" class="button no-print" @click="all = true">
          {{ t('share.more', { n: trees.length - shown.length }) }}
        </button>
      </section>
      <section>
        <h2 class="month">
          {{ t('share.book', { month: monthYear(data.month.first) }) }}
          <span class="acts no-print">
            <button type="button" class="button" @click="turn(-1)">{{ t('bookPage.earlier') }}</button>
            <button type="button" class="button" :disabled="isLast" @click="turn(1)">{{ t('bookPage.later') }}</button>
          </span>
        </h2>
        <MonthBody :month="data.month" :reload="load" open />
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
section {
  margin-top: var(--space-6);
}
h2 {
  font-size: var(--text-4);
}
.month,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
}
.month {
  justify-content: space-between;
}
.acts {
  margin-left: auto;
}
.plan li,
.trees li {
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--hair);
}
.trees li {
  display: grid;
  grid-template-columns: 5em 2fr 2fr 1fr 1fr;
  gap: var(--space-1) var(--space-4);
}
@media (max-width: 767px) {
  .trees li {
    grid-template-columns: 1fr;
  }
}
</style>
