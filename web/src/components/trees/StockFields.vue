<script setup lang="ts">
/** The stock of a tree: its kind by picture, its size by class, what was measured; what that means beside it. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, Problem, take, type Schema, type Wrong } from '@/api/client'
import FormField from '@/components/common/FormField.vue'
import PictureChoice from '@/components/common/PictureChoice.vue'
import QuantityInput from '@/components/common/QuantityInput.vue'
import { KINDS } from '@/logic/choices'
import type { TreeForm } from '@/logic/treeForm'
import { text } from '@/units'
import BallLook from './BallLook.vue'
import StockPicture from './StockPicture.vue'
import { sizeName } from '@/i18n'

const props = defineProps<{
  fields: TreeForm
  errors: Record<string, Wrong>
  unreadable: Record<string, boolean>
  sizes: Schema['StockSizeOut'][]
  today: string | undefined
}>()
const { t } = useI18n()
const form = props.fields
const unread = props.unreadable
const bare = computed(() => form.kind === 'bare_root')
const kindSizes = computed(() => props.sizes.filter((s) => s.kind === form.kind))
const size = computed(() => props.sizes.find((s) => s.id === form.stock_size_id))
const sizeHint = computed(() => {
  const s = size.value
  return s?.volume_l_low && s.volume_l_high
    ? t('form.sizeHolds', { low: text('volume', s.volume_l_low, 0), high: text('volume', s.volume_l_high, 0) })
    : t('form.sizeHint')
})
const kinds = KINDS.map((value) => ({ value, label: t(`kind.${value}`) }))
watch(
  () => form.kind,
  (kind) => {
    if (size.value && size.value.kind !== kind) form.stock_size_id = ''
  },
)
function takeSize(chosen: string) {
  form.stock_size_id = chosen
  const s = size.value
  if (s)
    Object.assign(form, { caliper_m: s.caliper_m, ball_diameter_m: s.ball_diameter_m, ball_height_m: s.ball_height_m })
}
const girth = ref<number | null>(null)
const girthWrong = ref('')
watch(girth, async (girth_m) => {
  girthWrong.value = ''
  if (girth_m === null) return
  try {
    form.caliper_m = await take(api.GET('/api/caliper', { params: { query: { girth_m } } }))
  } catch (e) {
    girthWrong.value = e instanceof Problem ? e.detail : String(e)
  }
})
const across = computed(() =>
  t(bare.value ? 'form.spread' : form.kind === 'box' ? 'form.boxSide' : form.kind === 'balled' ? 'form.ballAcross' : 'form.potAcross'),
) // prettier-ignore
</script>

<template>
  <fieldset>
    <legend>{{ t('form.stock') }}</legend>
    <PictureChoice id="f-kind" v-model="form.kind" :label="t('form.kind')" :options="kinds" :error="errors.kind">
      <template #default="{ value }"><StockPicture :of="value" /></template>
    </PictureChoice>
    <FormField id="f-size" class="wide" :label="t('form.size')" :hint="sizeHint">
      <select id="f-size" :value="form.stock_size_id" @change="takeSize(($event.target as HTMLSelectElement).value)">
        <option value="">{{ t('common.none') }}</option>
        <option v-for="s in kindSizes" :key="s.id" :value="s.id">{{ sizeName(s.label) }}</option>
      </select>
    </FormField>
    <QuantityInput
      id="f-caliper"
      v-model="form.caliper_m"
      v-model:invalid="unread.caliper_m"
      of="caliper_m"
      dimension="small"
      :label="t('form.caliper')"
      :error="errors.caliper_m"
      required
    />
    <QuantityInput
      id="f-girth"
      v-model="girth"
      v-model:invalid="unread.girth"
      dimension="small"
      :label="t('form.girth')"
      :hint="t('form.girthHint')"
      :error="girthWrong"
    />
    <QuantityInput
      id="f-ball"
      v-model="form.ball_diameter_m"
      v-model:invalid="unread.ball_diameter_m"
      of="ball_diameter_m"
      dimension="small"
      :label="across"
      :error="errors.ball_diameter_m"
      required
    />
    <QuantityInput
      id="f-height"
      v-model="form.ball_height_m"
      v-model:invalid="unread.ball_height_m"
      of="ball_height_m"
      dimension="small"
      :label="bare ? t('form.rootDepth') : t('form.ballHeight')"
      :error="errors.ball_height_m"
      required
    />
    <QuantityInput
      v-if="!bare"
      id="f-volume"
      v-model="form.ball_volume_l"
      v-model:invalid="unread.ball_volume_l"
      of="ball_volume_l"
      dimension="volume"
      :label="t('form.volume')"
      :hint="t('form.volumeHint')"
      :error="errors.ball_volume_l"
    />
    <QuantityInput
      id="f-crown"
      v-model="form.crown_diameter_m"
      v-model:invalid="unread.crown_diameter_m"
      of="crown_diameter_m"
      dimension="large"
      :label="t('form.crown')"
      :hint="t('form.crownHint')"
      :error="errors.crown_diameter_m"
    />
    <FormField v-if="bare" id="f-bud" :label="t('form.budBreak')" :error="errors.bud_break_on">
      <input id="f-bud" v-model="form.bud_break_on" class="plain-input" type="date" :max="today" />
    </FormField>
    <BallLook
      :kind="form.kind"
      :caliper="form.caliper_m"
      :across="form.ball_diameter_m"
      :height="form.ball_height_m"
      :volume="form.ball_volume_l"
    />
  </fieldset>
</template>
