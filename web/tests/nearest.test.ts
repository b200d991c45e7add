import { describe, expect, it } from 'vitest'
import { apart_m, byDistance } from '@/logic/nearest'

const tree = (latitude_deg: number | null, longitude_deg: number | null) => ({ latitude_deg, longitude_deg })

describe('how far trees are', () => {
  it('is a degree of latitude along a meridian: 111.2 km on a sphere of the earth’s mean radius', () => {
    expect(apart_m(tree(40, -105) as never, tree(41, -105) as never) / 1000).toBeCloseTo(111.2, 1)
  })
  it('shrinks with the cosine of the latitude from west to east', () => {
    const at = (latitude: number) =>
      apart_m({ latitude_deg: latitude, longitude_deg: 0 }, { latitude_deg: latitude, longitude_deg: 0.001 })
    expect(at(60) / at(0)).toBeCloseTo(0.5, 4)
  })
  it('is the same from both sides and nothing from itself', () => {
    const [a, b] = [tree(40.2, -104.7), tree(40.2004, -104.7003)] as [never, never]
    expect(apart_m(a, b)).toBe(apart_m(b, a))
    expect(apart_m(a, a)).toBe(0)
  })
  it('orders those whose place is known', () => {
    const all = [tree(40.21, -104.7), tree(null, null), tree(40.2001, -104.7)]
    const found = byDistance({ latitude_deg: 40.2, longitude_deg: -104.7 }, all)
    expect(found.map((f) => f.one)).toEqual([all[2], all[0]])
    expect(found[0]!.m).toBeCloseTo(11.1, 1)
  })
})
