/** Units: the one place where SI values become what a person reads and back. No arithmetic of the trade here. */
import { computed, ref, watch } from 'vue'
import { language, type Language } from '@/i18n/language'
import { figure } from '@/logic/numbers'

export type System = 'us' | 'metric'
export type Dimension =
  | 'volume'
  | 'small'
  | 'large'
  | 'rain'
  | 'flow'
  | 'temperature'
  | 'wind'
  | 'area'
  | 'pace'
  | 'far'
  | 'weight'
  | 'lineflow'
  | 'dose'
  | 'head'
  | 'bore'
  | 'bulk'
  | 'cup'

interface Unit {
  label: string
  /** SI value = typed x factor + offset */
  factor: number
  offset?: number
  digits: number
}

const L = 3.785411784
const IN = 0.0254
const FT = 0.3048
const OZ = 29.5735295625

/** SI units: volume L, small, large and far m, rain mm, flow L/h, temperature degC, wind m/s, area m2, pace mm/h, weight kg, lineflow L/h a metre, dose L a metre, head m of water, bore mm, bulk L, cup mL. */
const UNITS: Record<Dimension, Record<System, Unit>> = {
  volume: { metric: { label: 'L', factor: 1, digits: 1 }, us: { label: 'gal', factor: L, digits: 1 } },
  small: { metric: { label: 'cm', factor: 0.01, digits: 1 }, us: { label: 'in', factor: IN, digits: 1 } },
  large: { metric: { label: 'm', factor: 1, digits: 2 }, us: { label: 'ft', factor: FT, digits: 1 } },
  rain: { metric: { label: 'mm', factor: 1, digits: 1 }, us: { label: 'in', factor: 25.4, digits: 2 } },
  flow: { metric: { label: 'L/h', factor: 1, digits: 0 }, us: { label: 'gal/h', factor: L, digits: 1 } },
  temperature: {
    metric: { label: '°C', factor: 1, digits: 0 },
    us: { label: '°F', factor: 1 / 1.8, offset: -32 / 1.8, digits: 0 },
  },
  wind: { metric: { label: 'km/h', factor: 1 / 3.6, digits: 0 }, us: { label: 'mph', factor: 0.44704, digits: 0 } },
  area: { metric: { label: 'm²', factor: 1, digits: 2 }, us: { label: 'ft²', factor: FT * FT, digits: 1 } },
  weight: { metric: { label: 'kg', factor: 1, digits: 0 }, us: { label: 'lb', factor: 0.45359237, digits: 0 } },
  lineflow: {
    metric: { label: 'L/h a m', factor: 1, digits: 1 },
    us: { label: 'gal/h a ft', factor: L / FT, digits: 2 },
  },
  dose: { metric: { label: 'L a m', factor: 1, digits: 1 }, us: { label: 'gal a ft', factor: L / FT, digits: 2 } },
  head: { metric: { label: 'm', factor: 1, digits: 1 }, us: { label: 'psi', factor: 0.70307, digits: 0 } },
  bore: { metric: { label: 'mm', factor: 1, digits: 1 }, us: { label: 'in', factor: 25.4, digits: 2 } },
  bulk: {
    metric: { label: 'L', factor: 1, digits: 0 },
    us: { label: 'ft³', factor: 28.316846592, digits: 1 },
  },
  cup: { metric: { label: 'mL', factor: 1, digits: 0 }, us: { label: 'fl oz', factor: OZ, digits: 1 } },
  far: { metric: { label: 'km', factor: 1000, digits: 0 }, us: { label: 'mi', factor: 1609.344, digits: 0 } },
  pace: { metric: { label: 'mm/h', factor: 1, digits: 0 }, us: { label: 'in/h', factor: 25.4, digits: 2 } },
}

/** Everything a person may type after a number, by dimension. */
const WORDS: Partial<Record<Dimension, Record<string, number>>> = {
  volume: {
    ...{ l: 1, liter: 1, liters: 1, litre: 1, litres: 1, litro: 1, litros: 1, ml: 0.001 },
    ...{ gal: L, gallon: L, gallons: L, galón: L, galon: L, galones: L, g: L },
  },
  small: {
    ...{ mm: 0.001, cm: 0.01, m: 1, metro: 1, metros: 1, ft: FT, feet: FT, "'": FT, pie: FT, pies: FT },
    ...{ in: IN, inch: IN, inches: IN, '"': IN, '″': IN, pulg: IN, pulgada: IN, pulgadas: IN },
  },
  flow: { 'l/h': 1, lph: 1, 'l/min': 60, lpm: 60, 'gal/h': L, gph: L, 'gal/min': L * 60, gpm: L * 60 },
}
WORDS.bulk = {
  l: 1,
  liter: 1,
  liters: 1,
  litro: 1,
  litros: 1,
  m3: 1000,
  'm³': 1000,
  ft3: 28.316846592,
  'ft³': 28.316846592,
  yd3: 764.554857984,
  'yd³': 764.554857984,
  yd: 764.554857984,
  gal: L,
  galones: L,
  'pies³': 28.316846592,
  pies3: 28.316846592,
}
WORDS.cup = { ml: 1, cl: 10, l: 1000, oz: OZ, floz: OZ, 'fl oz': OZ, onzas: OZ }
WORDS.large = WORDS.small
WORDS.bore = { mm: 1, cm: 10, in: 25.4, inch: 25.4, inches: 25.4, '"': 25.4, '″': 25.4, pulg: 25.4, pulgadas: 25.4 }
WORDS.head = { m: 1, psi: 0.70307, bar: 10.197, kpa: 0.10197, ft: FT, feet: FT, pies: FT }
WORDS.rain = { mm: 1, cm: 10, in: 25.4, inch: 25.4, inches: 25.4, '"': 25.4, '″': 25.4, pulg: 25.4, pulgadas: 25.4 }

const KEY = 'june-shade-units'

function initial(): System {
  const kept = localStorage.getItem(KEY)
  if (kept === 'us' || kept === 'metric') return kept
  return /-US$/.test(navigator.language) ? 'us' : 'metric'
}

export const system = ref<System>(initial())
watch(system, (value) => localStorage.setItem(KEY, value))

export function toggleSystem() {
  system.value = system.value === 'us' ? 'metric' : 'us'
}

export interface Shown {
  value: string
  unit: string
}

/** Units that a language writes in its own way. */
const LABELS: Record<Language, Record<string, string>> = {
  en: {},
  es: {
    in: 'pulg',
    'fl oz': 'oz',
    ft: 'pies',
    'ft²': 'pies²',
    'ft³': 'pies³',
    'in/h': 'pulg/h',
    mph: 'mi/h',
    'L/h a m': 'L/h por m',
    'gal/h a ft': 'gal/h por pie',
    'L a m': 'L por m',
    'gal a ft': 'gal por pie',
  },
}
const written = (label: string) => LABELS[language.value][label] ?? label

const inUnit = (unit: Unit, si: number) => (si - (unit.offset ?? 0)) / unit.factor

/** The number that is shown, to draw and to compare with. */
export function amount(dimension: Dimension, si: number, digits?: number, as: System = system.value): number {
  const unit = UNITS[dimension][as]
  const rounded = Number(inUnit(unit, si).toFixed(digits ?? unit.digits))
  return rounded === 0 ? 0 : rounded
}

export function show(dimension: Dimension, si: number, digits?: number, as: System = system.value): Shown {
  const unit = UNITS[dimension][as]
  return { value: figure(amount(dimension, si, digits, as), digits ?? unit.digits), unit: written(unit.label) }
}

/** "16 L" with a no-break space. */
export function text(dimension: Dimension, si: number, digits?: number, as?: System): string {
  const shown = show(dimension, si, digits, as)
  return `${shown.value}\u00a0${shown.unit}`
}

/** With one significant figure: for what is not known better. */
export function one(dimension: Dimension, si: number): string {
  const unit = UNITS[dimension][system.value]
  return `${figure(Number(inUnit(unit, si).toPrecision(1)), 9)}\u00a0${written(unit.label)}`
}

export function unitLabel(dimension: Dimension): string {
  return written(UNITS[dimension][system.value].label)
}

/** A number as a person types it: 12, 1.5, 1/2, 1 1/2, with a comma for a point where no point is there. */
function number(typed: string): number | null {
  const clean = typed.trim().replace(/^(\d+),(\d+)$/, '$1.$2')
  const mixed = /^(?:(\d+)\s+)?(\d+)\s*\/\s*(\d+)$/.exec(clean)
  if (mixed) {
    const below = Number(mixed[3])
    return below === 0 ? null : Number(mixed[1] ?? 0) + Number(mixed[2]) / below
  }
  return /^[-+]?(\d+\.?\d*|\.\d+)$/.test(clean) ? Number(clean) : null
}

/** What was typed, in SI; a number alone is in the system shown. null = can't be read. */
export function parse(dimension: Dimension, typed: string): number | null {
  const words = WORDS[dimension] ?? {}
  const match = /^\s*([-+]?[\d.,]+(?:\s+\d+\s*\/\s*\d+|\s*\/\s*\d+)?)\s*((?:fl )?[a-zó"'″/]*[3³]?)\.?\s*$/i.exec(typed)
  if (!match) return null
  const value = number(match[1] ?? '')
  if (value === null) return null
  const word = (match[2] ?? '').toLowerCase()
  if (!word) {
    const unit = UNITS[dimension][system.value]
    return value * unit.factor + (unit.offset ?? 0)
  }
  const factor = words[word]
  return factor === undefined ? null : value * factor
}

export const isUs = computed(() => system.value === 'us')

const TOLD: Record<string, (value: number) => string> = {
  m: (v) => text(Math.abs(v) < 1.2 ? 'small' : 'large', v),
  mm: (v) => text('rain', v),
  km: (v) => (isUs.value ? `${Math.round(v / 1.609344)}\u00a0mi` : `${figure(v, 3)}\u00a0km`),
  L: (v) => text('volume', v),
  'L/h': (v) => text('flow', v),
  kg: (v) => text('weight', v),
}

/** A sentence of the program with its quantities, which come in SI with a no-break space, in the units shown. */
export function worded(sentence: string): string {
  return sentence.replace(/(-?\d+(?:\.\d+)?(?:e[+-]?\d+)?)\u00a0(km|kg|mm|L\/h|L|m)(?![\w/])/g, (_, number, unit) =>
    TOLD[unit]!(Number(number)),
  )
}

const HANDY_WITHIN = 0.0165

/**
 * A length as a tape is read. What was typed in these units is told as it was; what comes from round metric figures is
 * whole, then half inches and feet, then finer, as soon as that is near enough.
 */
export function handy(dimension: Dimension, si: number): string {
  const fine = show(dimension, si, 2).value
  const value = si / UNITS[dimension].us.factor
  const typed = Math.abs(value * 100 - Math.round(value * 100)) < 1e-4
  if (typed || !isUs.value || (dimension !== 'small' && dimension !== 'large') || Math.abs(value) < 1) return fine
  for (const step of [1, 0.5, 0.25, 0.1]) {
    const near = Math.round(value / step) * step
    if (Math.abs(near - value) <= HANDY_WITHIN * Math.abs(value)) return figure(near, 2)
  }
  return fine
}
