<script setup lang="ts">
/** The look at a ring: four depths, how far off the bark, is the flare in sight; what to do is said before it is kept. */
import { useDebounceFn } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, take, type Schema, type Wrong } from '@/api/client'
import { useMeasures } from '@/composables/useMeasures'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { text } from '@/units'

const props = defineProps<{ treeId: string; material: string; deepest: number }>()
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const SIDES = ['n', 'e', 's', 'w'] as const
const depths = reactive<(number | null)[]>([null, null, null, null])
const bark = ref<Schema['LookAtRing']['bark'] | ''>('')
const flare = ref<boolean | null>(null)
const roots = ref<boolean | null>(null)
const weeds = ref(false)
const errors = ref<Record<string, Wrong>>({})
const answer = ref<Schema['LookAnswer'] | null>(null)
const busy = ref(false)
const said = ref('')
const failed = ref('')
const { unread } = useMeasures()
const complete = computed(
  () => !unread.value && depths.every((d) => d !== null) && bark.value !== '' && flare.value !== null,
)
const asksRoots = computed(() => bark.value === 'touches' || bark.value === 'close' || flare.value === false)
const body = () => ({
  depths_m: depths.map((d) => d!),
  bark: bark.value as Schema['LookAtRing']['bark'],
  flare_seen: flare.value!,
  roots_in_mulch: asksRoots.value ? roots.value : null,
  weeds: weeds.value,
})
const judge = useDebounceFn(async () => {
  if (!complete.value) return
  try {
    answer.value = await take(
      api.POST('/api/trees/{tree_id}/mulch/check', { params: { path: { tree_id: props.treeId } }, body: body() }),
    )
    errors.value = {}
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    answer.value = null
    errors.value = e.fields
    failed.value = Object.keys(e.fields).length ? '' : e.detail
  }
}, 200)
watch([depths, bark, flare, roots, weeds], () => {
  answer.value = null
  said.value = ''
  void judge()
})
let id = newId()
async function keep() {
  busy.value = true
  failed.value = ''
  try {
    await persist(() =>
      api.PUT('/api/mulch-entries/{entry_id}', {
        params: { path: { entry_id: id } },
        body: { tree_id: props.treeId, look: body(), note: '' },
      }),
    )
    id = newId()
    depths.splice(0, 4, null, null, null, null)
    bark.value = ''
    flare.value = roots.value = null
    weeds.value = false
    emit('changed')
    await Promise.resolve()
    said.value = t('mulch.look.kept')
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    failed.value = e.detail === 'offline' ? t('common.offline') : e.detail
    errors.value = e.fields
  } finally {
    busy.value = false
  }
}
const wrongOf = (n: number) => errors.value[`depths_m[${n}]`] ?? errors.value[String(n)]
const words = computed(() => {
  const a = answer.value
  if (!a) return ''
  const most = Math.max(0, ...a.over_m)
  return t(`mulch.verdict.${a.verdict}`, {
    by: text('small', Math.max(...a.missing_m)),
    loose: text('bulk', a.loose_l),
    material: props.material,
    over: text('small', most),
  })
})
</script>

<template>
  <div class="look">
    <p class="quiet">{{ t('mulch.look.how') }}</p>
    <div class="four">
      <QuantityInput
        v-for="(side, n) in SIDES"
        :id="`look-${side}`"
        :key="side"
        v-model="depths[n]!"
        dimension="small"
        :label="t(`mulch.look.${side}`)"
        :error="wrongOf(n)"
      />
    </div>
    <fieldset>
      <legend>{{ t('mulch.look.bark') }}</legend>
      <button
        v-for="b in ['clear', 'close', 'touches'] as const"
        :key="b"
        type="button"
        class="answer"
        :aria-pressed="bark === b"
        @click="bark = b"
      >
        {{ t(`mulch.look.${b}`) }}
      </button>
    </fieldset>
    <fieldset>
      <legend>{{ t('mulch.look.flare') }}</legend>
      <button
        v-for="y in [true, false]"
        :key="String(y)"
        type="button"
        class="answer"
        :aria-pressed="flare === y"
        @click="flare = y"
      >
        {{ t(y ? 'mulch.look.yes' : 'mulch.look.no') }}
      </button>
    </fieldset>
    <fieldset v-if="asksRoots">
      <legend>{{ t('mulch.look.roots') }}</legend>
      <button
        v-for="y in [true, false, null]"
        :key="String(y)"
        type="button"
        class="answer"
        :aria-pressed="roots === y"
        @click="roots = y"
      >
        {{ t(y === null ? 'mulch.look.unknown' : y ? 'mulch.look.yes' : 'mulch.look.no') }}
      </button>
    </fieldset>
    <label class="weeds"><input v-model="weeds" type="checkbox" />{{ t('mulch.look.weeds') }}</label>
    <div v-if="answer" class="answer-box" role="status">
      <p :class="{ warn: answer.urgent }" class="big">{{ words }}</p>
      <p v-for="a in answer.also" :key="a">{{ t(`mulch.also.${a}`, { most: text('small', deepest, 0) }) }}</p>
      <p v-if="weeds">{{ t('mulch.look.weedsDo') }}</p>
    </div>
    <button type="button" class="button" :class="{ main: answer }" :disabled="busy || !complete" @click="keep">
      {{ t('mulch.look.keep') }}
    </button>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
  </div>
</template>

<style scoped>
.look {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
.four {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: var(--space-3);
  width: 100%;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
}
legend {
  font-weight: 600;
  padding: 0 0 var(--space-1);
}
.answer {
  min-height: 48px;
  padding: 0 var(--space-4);
  border: 2px solid var(--edge);
  background: transparent;
  border-radius: 2px;
  cursor: pointer;
}
.answer[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--ink);
  color: var(--ground);
  font-weight: 600;
}
.weeds {
  display: inline-flex;
  gap: var(--space-2);
  align-items: center;
  min-height: var(--tap);
}
.weeds input {
  width: 22px;
  height: 22px;
}
.big {
  font-size: var(--text-4);
  font-weight: 600;
}
.answer-box {
  border-top: 2px solid var(--ink);
  padding-top: var(--space-2);
  width: 100%;
}
@media (max-width: 767px) {
  .four {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
