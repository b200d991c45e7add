/** What an order allows, said in a crew's words and in the units that are shown. */
import { beforeEach, describe, expect, test } from 'vitest'
import type { Schema } from '@/api/client'
import { useOrderWords } from '@/composables/useOrderWords'
import { system } from '@/units'
import { within } from './within'

type Order = Schema['RestrictionOut']
const order = (rules: Partial<Order['rules']>, own: Partial<Order> = {}) =>
  ({
    rules: { weekdays: null, windows: null, methods: null, event_l: null, exempt: [], ...rules },
    week_l: null,
    closes_yards: false,
    first_day: null,
    last_day: null,
    ...own,
  }) as unknown as Order

describe('the words of an order', () => {
  beforeEach(() => (system.value = 'us'))
  const said = async (of: Order) => (await within(useOrderWords)).found.rules(of)

  test('nothing is said where nothing is ruled', async () => {
    expect(await said(order({}))).toEqual([])
  })

  test('days by name, by house number, and none at all', async () => {
    expect(await said(order({ weekdays: [3, 6] }))).toEqual(['Only on Wednesday and Saturday.'])
    const byNumber = await said(order({ weekdays: { even: [1], odd: [2, 5] } }))
    expect(byNumber).toHaveLength(2)
    expect(byNumber[0]).toMatch(/Monday/)
    expect(byNumber[1]).toMatch(/Tuesday and Friday/)
    expect((await said(order({ weekdays: [] })))[0]).not.toMatch(/undefined|day\b.*day\b/)
  })

  test('hours past midnight, to midnight, and none', async () => {
    expect((await said(order({ windows: [['18:00', '10:00']] })))[0]).toMatch(/^Only from 6:00\sPM to 10:00\sAM\.$/)
    expect((await said(order({ windows: [['20:00', '24:00']] })))[0]).toMatch(/midnight/)
    expect((await said(order({ windows: [] })))[0]).not.toMatch(/from/)
  })

  test('amounts turn with the units', async () => {
    const of = order({ event_l: 60 }, { week_l: 4600 })
    expect((await said(of)).join(' ')).toMatch(/16\sgal.*1,215\sgal/)
    system.value = 'metric'
    expect((await said(of)).join(' ')).toMatch(/60\sL.*4,600\sL/)
  })

  test('who is exempt from what, everyone where no condition is named', async () => {
    const rules = ['weekdays', 'windows'] as const
    const exempt = (own: object) => order({ exempt: [{ methods: null, planted_within_days: null, water: null, rules, ...own }] } as never) // prettier-ignore
    const named = (
      await said(exempt({ methods: ['emitters', 'bag'], planted_within_days: 365, water: ['reclaimed'] }))
    )[0]
    expect(named).toMatch(/days and hours: .*drip.*bag.*365 days.*reclaimed/)
    expect((await said(exempt({})))[0]).toMatch(/everyone|all/i)
  })

  test('from and to, either alone, or open', async () => {
    const { found } = await within(useOrderWords)
    const spans = [
      order({}, { first_day: '2026-07-01', last_day: '2026-09-30' }),
      order({}, { first_day: '2026-07-01' }),
      order({}, { last_day: '2026-09-30' }),
      order({}),
    ].map(found.span)
    expect(spans[0]).toMatch(/Jul 1, 2026.*Sep 30, 2026/)
    expect(spans[1]).toMatch(/Jul 1, 2026/)
    expect(spans[2]).toMatch(/Sep 30, 2026/)
    expect(new Set(spans).size).toBe(4)
  })
})
