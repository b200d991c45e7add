<script setup lang="ts">
/** A box as it is entered: where it answers, in which hours it may run, which line hangs on which outlet. */
import { reactive, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, newId, persist, Problem, type Schema, type Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import { useActing } from '@/composables/useActing'
import { asMinutes, asTime } from '@/logic/boxes'

const props = defineProps<{ siteId: string; box: Schema['BoxOut'] | null; lines: Schema['LineRowOut'][] }>()
const emit = defineEmits<{ saved: []; cancel: [] }>()
const { t } = useI18n()
const { busy, failed, act } = useActing(async () => emit('saved'))
const id = props.box?.id ?? newId()
const EARLY = [240, 420] as const
const first = props.box?.hours[0] ?? EARLY
const form = reactive({
  name: props.box?.name ?? '',
  address: props.box?.address ?? 'http://',
  opens: asTime(first[0]!),
  shuts: asTime(first[1]!),
  outlets: Object.fromEntries((props.box?.outlets ?? []).map((one) => [one.line_id, String(one.number)])) as Record<
    string,
    string
  >,
})
const errors = ref<Record<string, Wrong>>({})
async function save() {
  errors.value = {}
  const outlets = Object.entries(form.outlets)
    .filter(([, number]) => Number(number) > 0)
    .map(([line_id, number]) => ({ line_id, number: Number(number) }))
  const others = (props.box?.hours.slice(1) ?? []) as [number, number][]
  const hours: [number, number][] = [[asMinutes(form.opens) ?? EARLY[0], asMinutes(form.shuts) ?? EARLY[1]], ...others]
  const { name, address } = form
  await act(async () => {
    try {
      await persist(() =>
        api.PUT('/api/boxes/{box_id}', {
          params: { path: { box_id: id } },
          body: { site_id: props.siteId, name, address, hours, outlets, version: props.box?.version ?? null },
        }),
      )
    } catch (e) {
      if (e instanceof Problem) errors.value = e.fields
      throw e
    }
  }, t('boxes.saved'))
}
</script>

<template>
  <form class="form" @submit.prevent="save">
    <fieldset>
      <legend>{{ t(box ? 'boxes.edit' : 'boxes.new') }}</legend>
      <FormField id="box-name" :label="t('boxes.name')" :error="errors.name">
        <input id="box-name" v-model="form.name" class="plain-input" autocomplete="off" required />
      </FormField>
      <FormField id="box-address" :label="t('boxes.address')" :hint="t('boxes.addressHint')" :error="errors.address">
        <input
          id="box-address"
          v-model="form.address"
          class="plain-input"
          inputmode="url"
          autocomplete="off"
          autocapitalize="off"
          required
        />
      </FormField>
      <FormField id="box-opens" :label="t('boxes.opens')" :error="errors.hours">
        <input id="box-opens" v-model="form.opens" class="plain-input" type="time" />
      </FormField>
      <FormField id="box-shuts" :label="t('boxes.shuts')">
        <input id="box-shuts" v-model="form.shuts" class="plain-input" type="time" />
      </FormField>
      <FormField
        v-for="line in lines"
        :id="`box-${line.id}`"
        :key="line.id"
        :label="t('boxes.outletOf', { line: line.name })"
      >
        <input
          :id="`box-${line.id}`"
          v-model="form.outlets[line.id]"
          class="plain-input"
          inputmode="numeric"
          type="number"
          min="1"
          max="64"
        />
      </FormField>
    </fieldset>
    <p class="caution">{{ t('boxes.caution') }}</p>
    <p v-if="failed" class="warn" role="alert">{{ failed }}</p>
    <div class="buttons">
      <button class="button main" :disabled="busy">{{ t('boxes.save') }}</button>
      <button type="button" class="button" @click="emit('cancel')">{{ t('boxes.cancel') }}</button>
    </div>
  </form>
</template>

<style scoped>
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  margin-top: var(--space-3);
}
</style>
