import { describe, expect, it } from 'vitest'
import { sent } from '@/logic/numbers'

describe('numbers that were typed', () => {
  it('are numbers, an empty field is nothing', () => {
    expect([sent('4.5'), sent(' 7 '), sent('0'), sent(3), sent('39,7')]).toEqual([4.5, 7, 0, 3, 39.7])
    expect([sent(''), sent('  '), sent(null), sent(undefined)]).toEqual([null, null, null, null])
  })
  it('go as they are where they are none, so that they are refused and not lost', () => {
    expect(JSON.stringify({ way_min: sent('five') })).toBe('{"way_min":"five"}')
  })
})
