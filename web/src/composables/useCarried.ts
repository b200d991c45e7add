/** Volumes in what is carried: barrows, tubs, bins, bags, cubic yards or meters. */
import { useI18n } from 'vue-i18n'
import { isUs, show } from '@/units'

const SIZES_L: Record<string, number> = { barrow_85_l: 85, tub_57_l: 57, bin_121_l: 121, bag_57_l: 57 }
const GALLONS: Record<string, number> = { tub_57_l: 15, bin_121_l: 32 }
const FEET3: Record<string, number> = { barrow_85_l: 3, bag_57_l: 2 }

export function useCarried() {
  const { t } = useI18n()
  function size(what: string): string {
    if (!isUs.value) return `${SIZES_L[what]}\u00a0L`
    return GALLONS[what] ? `${GALLONS[what]}\u00a0gal` : `${FEET3[what]}\u00a0ft³`
  }
  /** "3 barrows of 3 ft³" */
  const carrier = (what: string, n: number) => t(`mulch.${what}`, { n, size: size(what) }, n)
  const carriers = (carried: Record<string, number>) => Object.entries(carried).map(([what, n]) => carrier(what, n))
  /** Loose stuff by bulk: yd³ or m³ where it is much, else ft³ or L. */
  function bulk(litres: number): string {
    const shown = show('bulk', litres)
    return `${shown.value}\u00a0${shown.unit}`
  }
  const inWords = (carried: Record<string, number>) => {
    const all = carriers(carried)
    return t('mulch.orOne', { list: all.slice(0, -1).join(', '), last: all[all.length - 1] })
  }
  return { size, carrier, carriers, bulk, inWords }
}
