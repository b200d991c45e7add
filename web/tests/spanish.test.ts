/** The second language says all that the first says, with the same gaps; numbers and dates as they are written there. */
import { afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import tasksEn from '@words/care.en.json'
import tasksEs from '@words/care.es.json'
import en from '../src/i18n/en.json'
import es from '../src/i18n/es.json'
import { longDay, clockTime, listed } from '@/logic/dates'
import { figure, fixed, ungrouped } from '@/logic/numbers'
import { handy, parse, show, system, text, unitLabel, worded } from '@/units'

type Words = { [key: string]: string | Words }
function flat(words: Words, at = ''): [string, string][] {
  return Object.entries(words).flatMap(([key, value]) =>
    typeof value === 'string' ? [[at + key, value] as [string, string]] : flat(value, `${at}${key}.`),
  )
}
const FIRST = flat({ ...en, task: tasksEn } as Words)
const SECOND = new Map(flat({ ...es, task: tasksEs } as Words))
const gaps = (words: string) => [...words.matchAll(/\{\w+\}|⟦[^⟧]*⟧/g)].map((m) => m[0]).sort()
/** Written alike in both: names, signs, units, words that are the same. */
const ALIKE =
  /^(gal|PIN|ETo|CSV|[Mm]ulch|Material|GeoJSON|dS\/m|[Pp]lan|GHCN-Daily CSV|June Shade|Penman-Monteith|Univ of \w+|Colorado State)$/

describe('Spanish', () => {
  it('has every message and no other', () => {
    expect(FIRST.map(([key]) => key).filter((key) => !SECOND.has(key))).toEqual([])
    expect([...SECOND.keys()].filter((key) => !new Map(FIRST).has(key))).toEqual([])
  })

  it('has the gaps, measures and forms for numbers of the first', () => {
    for (const [key, words] of FIRST) {
      const own = SECOND.get(key)!
      expect([key, [...new Set(gaps(own))]]).toEqual([key, [...new Set(gaps(words))]])
      expect([key, own.split(' | ').length]).toEqual([key, words.split(' | ').length])
    }
  })

  it('leaves nothing in English', () => {
    const bare = (words: string) => words.replace(/\{\w+\}|⟦[^⟧]*⟧|\bmin\b|[\d.,:|()–→]/g, '').trim()
    const same = FIRST.filter(([key, words]) => SECOND.get(key) === words && /[a-z]{3}/.test(bare(words)))
    expect(same.filter(([, words]) => !ALIKE.test(bare(words)))).toEqual([])
  })
})

describe('numbers and dates by the place', () => {
  beforeAll(() => vi.stubGlobal('document', { documentElement: {} }))
  const reads = async (locale: string) => {
    vi.stubGlobal('navigator', { language: locale, languages: [locale] })
    const { speak } = await import('@/i18n')
    await speak('en') // so that what rests on the place is asked anew
    await speak(locale.split('-')[0] as 'en' | 'es')
  }
  beforeEach(() => (system.value = 'metric'))
  afterEach(() => reads('en-US'))

  it('has a comma in Spain and a point in Mexico (Unicode CLDR)', async () => {
    await reads('es-ES')
    expect([figure(12345.5, 1), fixed(0.5, 2), text('volume', 3.5)]).toEqual(['12.345,5', '0,50', '3,5\u00a0L'])
    await reads('es-MX')
    expect([figure(12345.5, 1), fixed(0.5, 2), text('volume', 3.5)]).toEqual(['12,345.5', '0.50', '3.5\u00a0L'])
  })

  it('reads what it writes, comma or point', async () => {
    for (const place of ['es-ES', 'es-MX', 'en-US']) {
      await reads(place)
      for (const typed of ['3,5', '3.5', handy('volume', 3.5)]) expect(parse('volume', typed)).toBeCloseTo(3.5, 9)
      for (const metres of [0.177, 1.5, 12345.6]) {
        const field = ungrouped(show('small', metres, 1).value) // as a field shows it, to be typed on
        expect(parse('small', field)).toBeCloseTo(metres, 3)
      }
    }
  })

  it('names units as crews do, and takes them so', async () => {
    await reads('es-US')
    system.value = 'us'
    expect([unitLabel('small'), unitLabel('large'), unitLabel('rain')]).toEqual(['pulg', 'pies', 'pulg'])
    expect(parse('small', '24 pulg')).toBeCloseTo(0.6096, 9)
    expect(parse('large', '2 pies')).toBeCloseTo(0.6096, 9)
    expect(parse('volume', '5 galones')).toBeCloseTo(18.92705892, 8)
    expect(worded('debe ser más de 0.3\u00a0m')).toBe('debe ser más de 11.8\u00a0pulg')
  })

  it('has days, hours and lists in its own words', async () => {
    await reads('es-MX')
    expect(longDay('2026-07-15')).toMatch(/^mié/)
    expect(clockTime('2026-07-15T13:05:00Z', 'UTC')).toMatch(/p\.\s?m\./)
    expect(listed(['a', 'b', 'c'])).toBe('a, b y c')
  })

  it('tells what is more than a crew has, however its hours are written', async () => {
    const { hoursOf, isOver } = await import('@/composables/useWeeks')
    await reads('es-ES')
    expect([hoursOf(112), isOver(112, 105), isOver(109, 105)]).toEqual(['1,9', true, false])
  })

  it('ends a sentence with one point after an hour', async () => {
    await reads('es-MX')
    const { i18n } = await import('@/i18n')
    const hours = clockTime('2026-07-15T10:00:00Z', 'UTC')
    expect(i18n.global.t('drought.rule.hours', { hours })).toBe(`Solo ${hours}`)
  })

  it('finds kinds by what they are called in the language that is read, with accents or without', async () => {
    const { kindsCalled } = await import('@/i18n')
    await reads('es-MX')
    expect(kindsCalled('ENCINO bellota')).toEqual(['Bur oak'])
    expect(kindsCalled('arbol de judas')).toEqual(['Eastern redbud', 'Western redbud'])
    expect([kindsCalled('zzz'), kindsCalled(' ')]).toEqual([undefined, undefined])
    await reads('en-US')
    expect(kindsCalled('encino')).toBeUndefined()
  })

  it('keeps a kind of tree or a size that somebody entered as it is', async () => {
    const { sizeName, treeName } = await import('@/i18n')
    await reads('es-US')
    expect([treeName('Bur oak'), treeName('Grandfather’s pear')]).toEqual([
      'Encino de bellota grande',
      'Grandfather’s pear',
    ])
    const sizes = ['1.5 in balled', '#15 container', '12 in fabric bag', '6 ft conifer balled', 'Harlan’s big ones']
    expect(sizes.map(sizeName)).toEqual([
      '1.5 pulg con cepellón',
      '#15 en maceta',
      '12 pulg en bolsa de tela',
      '6 pies conífera con cepellón',
      'Harlan’s big ones',
    ])
  })
})
