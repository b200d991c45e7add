<script setup lang="ts">
/** What the chosen way of pouring does for the ball as typed: share on it, share that arrives, how long half a ball takes. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { useHow } from '@/composables/useHow'
import { useLook } from '@/composables/useLook'
import type { TreeForm } from '@/logic/treeForm'
import { text } from '@/units'

const props = defineProps<{ fields: TreeForm }>()
const { t } = useI18n()
const { time } = useHow()
const seen = ref<Schema['PourLook'] | null>(null)
const share = (value: number) => Math.round(100 * value)
const asked = computed(() => {
  const f = props.fields
  if (!f.site_id || !(Number(f.ball_diameter_m) > 0) || !(Number(f.ball_height_m) > 0)) return null
  const own = (method: string) => f.method === method
  return {
    site_id: f.site_id,
    kind: f.kind,
    ball_diameter_m: f.ball_diameter_m!,
    ball_height_m: f.ball_height_m!,
    method: f.method,
    basin_diameter_m: f.basin_diameter_m,
    basin_depth_m: f.basin_depth_m,
    emitter_count: own('emitters') ? Number(f.emitter_count) || 0 : 0,
    emitter_flow_l_per_h: own('emitters') ? (f.emitter_flow_l_per_h ?? 0) : 0,
    bag_capacity_l: f.bag_capacity_l ?? 75,
    soaker_across_m: own('soaker') ? f.soaker_across_m : null,
    soaker_flow_l_per_h_m: own('soaker') ? f.soaker_flow_l_per_h_m : null,
    sprinkler_across_m: own('sprinkler') ? f.sprinkler_across_m : null,
    sprinkler_flow_l_per_h: own('sprinkler') ? f.sprinkler_flow_l_per_h : null,
    reservoir_l: own('wicked') ? f.reservoir_l : null,
  }
})
const { look, now } = useLook(
  (signal) => asked.value && take(api.POST('/api/pour-look', { body: asked.value, signal })),
  (found) => (seen.value = found),
  { none: () => (seen.value = null) }, // what is missing is said once the form is sent
)
watch(asked, look)
void now()
</script>

<template>
  <div v-if="seen" class="look" aria-live="polite">
    <p>
      {{ t('pourLook.share') }} <strong>{{ `${share(seen.ball_share)}\u00a0%` }}</strong>
      {{ t('pourLook.arrives', { share: share(seen.efficiency), flow: text('flow', seen.flow_l_per_h, 0) }) }}
    </p>
    <p>
      {{ t('pourLook.half', { litres: text('volume', seen.pour.litres, 0), time: time(seen.pour.run_min) }) }}
      <template v-if="seen.pour.goes.count > 1">{{
        t('pourLook.goes', { n: seen.pour.goes.count, total: time(seen.pour.total_min) })
      }}</template>
    </p>
    <p v-if="seen.dry_ball" class="warn">{{ t('flag.dry_ball') }}</p>
  </div>
</template>
