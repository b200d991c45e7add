/** What a catch test says, in words: how much and how even, which emitters are wrong, what became of it since. */
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { listed } from '@/logic/dates'
import { percent } from '@/logic/numbers'
import { isUs, text } from '@/units'

type Test = Schema['CatchOut']
const LITTLE = 0.005

export function useCatchWords() {
  const { t } = useI18n()
  const flow = (value: number) => text('flow', value, isUs.value ? 2 : 1)
  const numbers = (which: number[]) => listed(which.map(String))
  function evenness(one: Test): string {
    const said = t('drip.catch.mean', { flow: flow(one.mean_l_per_h), share: percent(one.of_nominal) })
    return one.uniformity === null ? said : `${said}, ${t('drip.catch.even', { share: percent(one.uniformity) })}`
  }
  function overLine(line: Schema['CaughtOnOut']): string {
    const least = line.trees[line.least]!
    const share = percent(line.uniformity ?? 0)
    const named = { n: line.trees.length, share, tag: least.tag, flow: flow(least.mean_l_per_h) }
    return t('drip.catch.line', named, line.trees.length)
  }
  const wrong = (one: Pick<Test, 'blocked' | 'weak' | 'leaking'>) =>
    (['blocked', 'weak', 'leaking'] as const)
      .filter((kind) => one[kind].length)
      .map((kind) => t(`drip.catch.${kind}`, { numbers: numbers(one[kind]) }, one[kind].length))
  function since(one: Test): string {
    const changed = one.since?.changed
    if (!one.since || changed === null || changed === undefined) return ''
    const way = Math.abs(changed) < LITTLE ? 'same' : changed < 0 ? 'less' : 'more'
    const said = t(`drip.catch.since.${way}`, { share: percent(Math.abs(changed)) })
    const { losing } = one.since
    return losing.length ? `${said} ${t('drip.catch.since.losing', { numbers: numbers(losing) }, losing.length)}` : said
  }
  return { flow, overLine, evenness, wrong, since, numbers }
}
