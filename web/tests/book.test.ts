/** The book: every row in words, with its units; what can be taken back or put right; the address is the question. */
import { beforeEach, describe, expect, test } from 'vitest'
import { useBook, WHAT, type BookRow } from '@/composables/useBook'
import { useBookQuery } from '@/composables/useBookQuery'
import { system } from '@/units'
import { within } from './within'

const ROW = { id: '1', kind: 'water', day: '2026-07-14', at: '2026-07-14T12:00:00Z', undone: null, tree: { id: 't' } }
const row = (kind: BookRow['kind'], more: Partial<BookRow> = {}) => ({ ...ROW, kind, ...more }) as BookRow
/** One row of every kind that the book keeps. */
const ALL = [
  row('water', { volume_l: 45.4, duration_min: 12 }),
  row('reading', { how: 'finger', ball_feel: 'dry', ring_feel: 'moist' } as Partial<BookRow>),
  row('note', { seen: 'wilting', note: 'by the gate' } as Partial<BookRow>),
  row('skip', { reason: 'no_water' } as Partial<BookRow>),
  row('checkup', { verdict: 'thirsty' } as Partial<BookRow>),
  row('thirst', { answer: 'accepted', multiplier: 1.6 } as Partial<BookRow>),
  row('mulch', { subject: 'laid', material: 'wood_chips', depth_m: 0.0762 } as Partial<BookRow>),
  row('care', { act: 'done', subject: 'own_look' } as Partial<BookRow>),
  row('layout', { emitters: 4, flow_l_per_h: 3.785 } as Partial<BookRow>),
  row('proof', { minutes: 90, depth_m: 0.3048 } as Partial<BookRow>),
  row('catch', { minutes: 15, emitters: 6 } as Partial<BookRow>),
  row('planted', { subject: 'balled', tree: { id: 't', common: 'Bur oak' } } as Partial<BookRow>),
  row('ended', { subject: 'dead', cause: 'dry' } as Partial<BookRow>),
  row('soil', { subject: 'ribbon' } as Partial<BookRow>),
  row('routine', { routine: { name: 'fixed', litres: 37.85, every_days: 3 } } as Partial<BookRow>),
  row('own', { subject: 'growth', growth_m: 0.127 } as Partial<BookRow>),
  row('changed', { method: 'hose' } as Partial<BookRow>),
]

describe('a row in words', () => {
  beforeEach(() => (system.value = 'us'))
  test.each(ALL.map((one) => [one.kind, one] as const))('%s has words of its own', async (_, one) => {
    const { found } = await within(useBook)
    const words = found.said(one)
    expect(words).not.toMatch(/undefined|null|NaN|[a-z]\.[a-z]/)
    expect(words.length).toBeGreaterThan(2)
  })
  test('figures stand in the units that are shown', async () => {
    const { found } = await within(useBook)
    const [water, mulch] = [ALL[0]!, ALL[6]!]
    expect(found.said(water)).toMatch(/^12\sgal/)
    expect(found.said(mulch)).toMatch(/3\s*in/)
    system.value = 'metric'
    expect(found.said(water)).toMatch(/45(\.4)?\s*L/)
    expect(found.said(mulch)).toMatch(/8\s*cm|76\s*mm/)
  })
  test('planting and a change of the way stay; a probe is taken back and written anew', async () => {
    const { found } = await within(useBook)
    const stay = ALL.filter((one) => !found.canUndo(one)).map((one) => one.kind)
    expect(stay).toEqual(['planted', 'changed'])
    expect(ALL.filter((one) => found.canChange(one)).map((one) => one.kind)).toEqual(['water', 'reading'])
    expect(found.canChange(row('reading', { how: 'probe' } as Partial<BookRow>))).toBe(false)
    expect(found.canUndo(row('water', { undone: true } as unknown as Partial<BookRow>))).toBe(false)
  })
  test('what people look for together leaves out no kind', () => {
    const together = Object.values(WHAT).flat()
    expect([...together].sort()).toEqual([...new Set(ALL.map((one) => one.kind))].sort())
  })
})

describe('the address is the question', () => {
  test('it is read from there, what is none falls away', async () => {
    const { found } = await within(useBookQuery, '/book?what=felt&q=RT-22&from=2026-07-01&undone=1')
    expect(found.query.value).toMatchObject({ what: 'felt', q: 'RT-22', first: '2026-07-01', undone: true, site: '' })
    expect(found.asked.value).toMatchObject({ kind: WHAT.felt, q: 'RT-22', first: '2026-07-01', undone: true })
    expect(found.asked.value.site_id).toBeUndefined()
    const none = await within(useBookQuery, '/book?what=anything')
    expect(none.found.query.value.what).toBe('all')
    expect(none.found.asked.value.kind).toBeUndefined()
  })
  test('a change keeps the rest, clearing empties it', async () => {
    const { found, router } = await within(useBookQuery, '/book?site=s&q=oak')
    found.change({ what: 'water' })
    await new Promise((done) => setTimeout(done))
    expect(router.currentRoute.value.query).toEqual({ site: 's', what: 'water', q: 'oak' })
    found.clear()
    await new Promise((done) => setTimeout(done))
    expect(router.currentRoute.value.query).toEqual({})
  })
})
