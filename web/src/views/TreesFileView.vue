<script setup lang="ts">
/** The register as a file: out whole; in with a look at what would be new, changed, the same and refused. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { isUs, system } from '@/units'
import BroughtIn from '@/components/common/BroughtIn.vue'
import ImportProgress from '@/components/common/ImportProgress.vue'
import PageFrame from '@/components/common/PageFrame.vue'
import { useImport } from '@/composables/useImport'

const { t } = useI18n()
const { file, row, failed, sending, busy, bring, store, cancel } = useImport()
const brought = ref<InstanceType<typeof BroughtIn> | null>(null)
const found = computed(() => row.value?.trees ?? null)
const stored = computed(() => row.value?.state === 'stored')
const coming = computed(() => (found.value ? found.value.new + found.value.changed : 0))
async function take() {
  await store()
  await brought.value?.load()
}
const example = computed((): [string, string][] => {
  const [unit, caliper, across, high] = isUs.value ? ['in', '2', '24', '16'] : ['cm', '5', '61', '41']
  return [
    ['site', 'Elm Court'],
    ['tag', 'EC-01'],
    ['place', 'north of the gate'],
    ['stop', 'Gate'],
    ['species', 'Quercus macrocarpa'],
    ['kind', 'balled'],
    [`caliper_${unit}`, caliper!],
    [`ball_diameter_${unit}`, across!],
    [`ball_height_${unit}`, high!],
    ['planted_on', '2026-04-12'],
  ]
})
function choose(event: Event) {
  const chosen = (event.target as HTMLInputElement).files?.[0]
  if (chosen) void bring(chosen)
}
</script>

<template>
  <PageFrame :title="t('trees.fileTitle')">
    <section>
      <p class="wide">{{ t('trees.exportWords') }}</p>
      <a class="button" href="/api/trees.csv" download="trees.csv">{{ t('trees.export') }}</a>
    </section>
    <section>
      <h2>{{ t('weather.import') }}</h2>
      <p class="wide quiet">{{ t('trees.importWords') }}</p>
      <h3>{{ t('trees.example') }}</h3>
      <p class="wide quiet">{{ t('trees.exampleWords') }}</p>
      <div class="example" tabindex="0" role="region" :aria-label="t('trees.example')">
        <table>
          <thead>
            <tr>
              <th v-for="[name] in example" :key="name" scope="col">{{ name }}</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td v-for="[name, value] in example" :key="name">{{ value }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <a class="button" :href="`/api/trees-template.csv?units=${system}`" download="trees.csv">{{
        t('trees.template')
      }}</a>
      <label class="button choose">
        {{ file ? file.name : t('weather.choose') }}
        <input class="visually-hidden" type="file" accept=".csv,text/csv,text/plain" @change="choose" />
      </label>
      <ImportProgress v-if="busy" :row="row" :sending="sending" @cancel="cancel" />
      <p v-if="failed" class="warn" role="alert">{{ file?.name }}: {{ failed }}</p>
      <div v-if="found && !busy" class="found" role="status">
        <p v-if="stored" class="sum">
          <strong>{{ t('trees.taken', { n: coming }, coming) }}</strong>
        </p>
        <p v-else class="sum">
          <strong>{{ t('trees.newN', { n: found.new }) }}</strong>,
          <strong>{{ t('trees.changedN', { n: found.changed }) }}</strong>, {{ t('trees.sameN', { n: found.same }) }}
        </p>
        <p v-if="found.new_tags.length && !stored" class="narrow">{{ found.new_tags.join(', ') }}</p>
        <template v-if="found.changes.length && !stored">
          <h3>{{ t('trees.changes') }}</h3>
          <ul>
            <li v-for="c in found.changes" :key="c.line">
              <strong>{{ c.tag }}</strong> {{ c.fields.join(', ') }}
            </li>
          </ul>
        </template>
        <template v-if="found.refused_count">
          <h3 class="warn">{{ t('trees.refusedN', { n: found.refused_count }, found.refused_count) }}</h3>
          <ul>
            <li v-for="(i, n) in found.refused" :key="n">
              <strong>{{ t('weather.line', { line: i.line }) }}</strong> {{ i.column }} {{ i.message }}
            </li>
          </ul>
        </template>
        <p v-if="found.ignored.length" class="quiet">{{ t('trees.ignored', { names: found.ignored.join(', ') }) }}</p>
        <template v-if="!stored">
          <button v-if="coming" type="button" class="button main" :disabled="busy" @click="take">
            {{ t('trees.take', { n: coming }, coming) }}
          </button>
          <p v-else>{{ t('trees.nothing') }}</p>
          <p class="quiet">{{ t('weather.nothingStored') }}</p>
        </template>
        <RouterLink v-else :to="{ name: 'trees' }">{{ t('trees.title') }}</RouterLink>
      </div>
    </section>
    <section><BroughtIn ref="brought" /></section>
  </PageFrame>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
  padding-top: var(--space-5);
}
.example {
  max-width: 100%;
  overflow-x: auto;
}
.example th,
.example td {
  padding: var(--space-1) var(--space-3);
  border: 1px solid var(--hair);
  text-align: left;
  white-space: nowrap;
  font-family: var(--condensed);
}
.wide {
  max-width: 64ch;
}
.choose:focus-within {
  outline: 3px solid var(--water);
  outline-offset: 2px;
}
.found {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
.sum {
  font-size: var(--text-4);
}
ul {
  max-height: 260px;
  overflow: auto;
}
li {
  padding: var(--space-1) 0;
  border-bottom: 1px solid var(--hair);
}
</style>
