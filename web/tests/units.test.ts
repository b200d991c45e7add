/** Factors: NIST SP 811, appendix B (exact: gallon, inch, foot, pound, mile an hour; from memory). */
import { beforeEach, describe, expect, test } from 'vitest'
import { handy, one, parse, show, system, text, unitLabel, worded, type Dimension } from '@/units'

/** A hint for each unit system, or a size that is a name; words of tasks go into calendars too, which know no units. */
const BOTH = new Set(['sites.flowHint', 'sites.flowHintMetric', 'form.sizeHolds'])

const DIMENSIONS: Dimension[] = [
  'volume',
  'small',
  'large',
  'rain',
  'flow',
  'temperature',
  'wind',
  'area',
  'pace',
  'weight',
  'lineflow',
  'head',
  'bore',
  'bulk',
]

beforeEach(() => {
  system.value = 'us'
})

describe('published factors', () => {
  test.each([
    ['volume', 3.785411784, '1', 'gal'],
    ['small', 0.0254, '1', 'in'],
    ['large', 0.3048, '1', 'ft'],
    ['rain', 25.4, '1', 'in'],
    ['wind', 0.44704, '1', 'mph'],
    ['area', 0.09290304, '1', 'ft²'],
    ['weight', 0.45359237, '1', 'lb'],
    ['temperature', 100, '212', '°F'],
    ['temperature', 0, '32', '°F'],
    ['temperature', -40, '-40', '°F'],
    ['bulk', 28.316846592, '1', 'ft³'],
    ['head', 0.7030696, '1', 'psi'],
  ] as const)('%s %d', (dimension, si, value, unit) => {
    expect(show(dimension, si)).toEqual({ value, unit })
  })
})

describe('what is shown can be typed', () => {
  test.each(DIMENSIONS)('%s, in both systems', (dimension) => {
    for (const as of ['us', 'metric'] as const) {
      system.value = as
      for (const si of [0.37, 1, 12.6, 88]) {
        const shown = show(dimension, si, 6)
        const back = parse(dimension, shown.value.replace(/,/g, ''))!
        expect(Math.abs(back - si)).toBeLessThan(1e-4 * Math.max(1, si))
      }
      expect(unitLabel(dimension)).not.toBe('')
    }
  })
  test('its own unit is read after a number too', () => {
    for (const dimension of ['volume', 'small', 'large', 'rain', 'flow', 'head', 'bore', 'bulk'] as const) {
      for (const as of ['us', 'metric'] as const) {
        system.value = as
        const typed = `12 ${unitLabel(dimension)}`
        expect(parse(dimension, typed), typed).toBeCloseTo(parse(dimension, '12')!, 9)
      }
    }
  })
})

describe('what a person types', () => {
  test.each([
    ['small', '1 1/2', 1.5 * 0.0254],
    ['small', '3/4 in', 0.75 * 0.0254],
    ['small', '2″', 2 * 0.0254],
    ['small', '10 cm', 0.1],
    ['small', '4ft', 4 * 0.3048],
    ['volume', '1,5', 1.5 * 3.785411784],
    ['volume', '20 L', 20],
    ['flow', '1 gpm', 60 * 3.785411784],
    ['head', '1 bar', 10.197],
    ['rain', '5 mm', 5],
  ] as const)('%s %s', (dimension, typed, si) => {
    expect(parse(dimension, typed)).toBeCloseTo(si, 6)
  })
  test.each([
    ['small', ''],
    ['small', 'wide'],
    ['small', '1/0'],
    ['small', '3 gal'],
    ['volume', '2 in'],
    ['volume', '1.2.3'],
    ['temperature', '20 C or so'],
  ] as const)('%s %s is no measure', (dimension, typed) => {
    expect(parse(dimension, typed)).toBeNull()
  })
})

test('a number never stands without its unit, nor apart from it', () => {
  expect(text('volume', 3.785411784 * 12)).toBe('12\u00a0gal')
  expect(one('volume', 3.785411784 * 12)).toBe('10\u00a0gal')
  expect(text('volume', -1e-9)).toBe('0\u00a0gal')
  expect(text('volume', 37854.11784, 0)).toBe('10,000\u00a0gal')
})

test("quantities in the program's sentences are told in the units shown", () => {
  const said = 'must be between 0.05\u00a0m and 3\u00a0m, not 30\u00a0L; 12 m of it is no quantity'
  expect(worded(said)).toBe('must be between 2\u00a0in and 9.8\u00a0ft, not 7.9\u00a0gal; 12 m of it is no quantity')
  expect(worded('under 10\u00a0mm of rain')).toBe('under 0.39\u00a0in of rain')
})

test('a measure in a message is told in the units shown, and no message has one of its own', async () => {
  const { i18n } = await import('@/i18n')
  system.value = 'us'
  expect(i18n.global.t('form.caliper')).toBe('Trunk thickness, 6\u00a0in up')
  system.value = 'metric'
  expect(i18n.global.t('form.caliper')).toBe('Trunk thickness, 15\u00a0cm up')
  system.value = 'us'
  const own = /\d ?(liters?|gal|in|inch|inches|cm|ft|feet|kg|lb)\b/
  const told: string[] = []
  const look = (messages: object, at: string) => {
    for (const [key, value] of Object.entries(messages)) {
      if (typeof value !== 'string') look(value as object, `${at}${key}.`)
      else if (own.test(value)) told.push(at + key)
    }
  }
  look(i18n.global.messages.value.en, '')
  expect(told.filter((key) => !BOTH.has(key) && !key.startsWith('task.'))).toEqual([])
})

test('a field shows a length as a tape is read', () => {
  system.value = 'us'
  const ofMetres = [0.09, 0.6, 0.05, 0.008].map((m) => handy('small', m))
  expect(ofMetres).toEqual(['3.5', '24', '2', '0.31'])
  const typed = [2.25, 36, 35.4, 1.75, 3.54].map((inches) => handy('small', inches * 0.0254))
  expect(typed).toEqual(['2.25', '36', '35.4', '1.75', '3.54'])
  expect(handy('large', 2)).toBe('6.5')
  system.value = 'metric'
  expect(handy('small', 0.09)).toBe('9')
  system.value = 'us'
})
