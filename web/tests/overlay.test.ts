import { describe, expect, it } from 'vitest'
import type { Schema } from '@/api/client'
import { changesOf, overLog, overRound, overTasks } from '@/offline/overlay'
import { at, makes, restsOn, type Row } from '@/offline/rows'

type Round = Schema['RoundOut']
const MOMENT = { at_ms: 0, device_ms: 0, ahead_ms: 0, known_ms: 0 }
const next = (litres: number) => ({ metric: { litres }, us: { litres } }) as Schema['Next']
const tree = (id: string, litres: number | null) => ({
  id,
  tag: id.toUpperCase(),
  next: litres === null ? null : next(litres),
  entries: [],
  skipped: false,
})
const round = (...trees: object[]) =>
  ({ day: '2026-07-15', sites: [{ zone: 'America/Denver', care: [], stops: [{ trees }] }] }) as unknown as Round
const entry = (id: string, body: object, more: object = {}): Row =>
  ({
    kind: 'entry',
    id,
    body: { happened_at: '2026-07-15T14:00:00Z', device_id: 'd', ...body },
    moment: MOMENT,
    state: 'waits',
    ...more,
  }) as unknown as Row
const water = (id: string, tree_id: string, volume_l: number) => entry(id, { tree_id, kind: 'water', volume_l })
const trees = (of: Round) => of.sites[0]!.stops[0]!.trees

describe('a round with what waits', () => {
  it('crosses off and adds up what was watered and marks what was passed over', () => {
    const over = overRound(
      round(tree('a', 20), tree('b', 10), tree('c', 5)),
      [water('1', 'a', 18), entry('2', { tree_id: 'b', kind: 'skip', reason: 'soil_wet' })],
      'Noor',
    )
    expect(trees(over).map((one) => [one.next === null, one.skipped])).toEqual([
      [true, false],
      [false, true],
      [false, false],
    ])
    expect(trees(over)[0]!.entries[0]).toMatchObject({ volume_l: 18, person: 'Noor', local_date: '2026-07-15' })
  })
  it('takes what was undone out again, and what the program did not take', () => {
    const rows = [water('1', 'a', 18), entry('2', { tree_id: 'a', kind: 'void', voids: '1' })]
    expect(trees(overRound(round(tree('a', 20)), rows, null))[0]).toMatchObject({ entries: [], next: next(20) })
    const refused = { ...water('1', 'a', 18), state: 'refused' } as Row
    expect(trees(overRound(round(tree('a', 20)), [refused], null))[0]!.entries).toEqual([])
  })
  it('is of its own day only', () => {
    const before = entry('1', { tree_id: 'a', kind: 'water', volume_l: 9, happened_at: '2026-07-14T14:00:00Z' })
    expect(trees(overRound(round(tree('a', 20)), [before], null))[0]!.next).toEqual(next(20))
  })
  it('counts once what the program has by now', () => {
    const known = { ...tree('a', null), entries: [{ id: '1', volume_l: 18 }] }
    expect(trees(overRound(round(known), [water('1', 'a', 18)], null))[0]!.entries).toHaveLength(1)
  })
  it('leaves out tasks that something was said of, unless that was taken back', () => {
    const task = { tree_id: 'a', planting_id: null, key: 'stake' } as Schema['TaskOut']
    const said = { kind: 'care', id: '1', body: { tree_id: 'a', key: 'stake', act: 'done' } } as unknown as Row
    const back = { kind: 'careBack', id: '2', body: { act_id: '1', tree_id: 'a' } } as unknown as Row
    expect(overTasks([task], [said])).toEqual([])
    expect(overTasks([task], [said, back])).toEqual([task])
  })
})

describe('a log with what waits', () => {
  it('has the newest first and marks what is undone', () => {
    const log = [{ id: '1', tree_id: 'a', voided: false }] as Schema['EntryOut'][]
    const rows = [entry('2', { tree_id: 'a', kind: 'void', voids: '1' }), water('3', 'a', 5), water('4', 'b', 5)]
    const over = overLog(log, 'a', rows, 'America/Denver', null)
    expect(over.map((one) => [one.id, one.voided])).toEqual([
      ['3', false],
      ['1', true],
    ])
  })
})

describe('what a newer plan says otherwise', () => {
  it('names trees that came, went and changed', () => {
    const found = changesOf(round(tree('a', 20), tree('b', 10)), round(tree('b', 12), tree('c', 5)))
    expect(found).toMatchObject({ more: ['C'], less: ['A'], other: [{ tag: 'B' }] })
  })
  it('is nothing where nothing changed, or on another day', () => {
    expect(changesOf(round(tree('a', 20)), round(tree('a', 20)))).toBeNull()
    expect(changesOf(round(tree('a', 20)), { ...round(), day: '2026-07-16' })).toBeNull()
  })
})

describe('a row', () => {
  it('is dated anew in all its entries, but a correction stays of when the other was', () => {
    const batch = { kind: 'entries', id: 'x', body: { entries: [{ id: '1' }, { id: '2' }] }, moment: MOMENT } as never
    const moved = at(batch, 1000) as Extract<Row, { kind: 'entries' }>
    expect(moved.body.entries.map((one) => one.happened_at)).toEqual(Array(2).fill('1970-01-01T00:00:01.000Z'))
    expect(makes(moved)).toEqual(['1', '2'])
    const correction = entry('3', { tree_id: 'a', kind: 'water', volume_l: 4, corrects: '1' })
    expect((at(correction, 1000) as Extract<Row, { kind: 'entry' }>).body.happened_at).toBe('2026-07-15T14:00:00Z')
    expect(restsOn(correction)).toEqual(['1'])
  })
})
