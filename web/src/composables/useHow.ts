/** How an amount is poured, in words: minutes, goes, proof. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { minutes } from '@/logic/dates'
import { figure } from '@/logic/numbers'
import { text } from '@/units'

export function useHow() {
  const { t } = useI18n()
  const time = (value: number) => {
    const m = minutes(value)
    return `${figure(m.n, 1)}\u00a0${t(`common.${m.unit}`)}`
  }

  function how(
    pour: Schema['PourOut'],
    tree: { method: string; emitter_count: number; emitter_flow_l_per_h: number },
  ): string {
    const main = t(`how.${tree.method}`, {
      time: time(pour.run_min),
      count: tree.emitter_count,
      flow: text('flow', tree.emitter_flow_l_per_h),
    })
    if (pour.goes.count < 2) return main
    return t('how.goes', {
      time: main,
      count: pour.goes.count,
      run: time(pour.goes.run_min),
      rest: time(pour.goes.rest_min),
    })
  }
  const proof = (depth_m: number) => t('how.proof', { depth: text('small', depth_m, 0) })
  return { how, proof, time }
}
