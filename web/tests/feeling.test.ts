/** What the page says to a reading: whether it fits, counts little, or is so far off that the tree is worth a look. */
import { beforeEach, describe, expect, test } from 'vitest'
import type { Schema } from '@/api/client'
import { useFeeling } from '@/composables/useFeeling'
import { system } from '@/units'
import { within } from './within'

/** A tree's page after a reading; how dry the plan has it now, how dry it was felt. */
const page = (is: number, felt: number) =>
  ({
    today: '2026-07-15',
    next: null,
    dryness: is,
    readings: [{ how: 'finger', dryness: felt, fits_within: 0.2, far_beyond: 0.3, little: 0.34 }],
  }) as unknown as Schema['WaterPageOut']

describe('the answer to a reading', () => {
  beforeEach(() => (system.value = 'us'))
  test.each([
    ['within its own error it fits', 0.4, 0.41, 0.5, /That fits/],
    ['off, and the plan hardly moves: it counts little', 0.4, 0.42, 0.65, /counts little.*more\. No water/],
    ['far drier: check whether water gets there', 0.4, 0.42, 0.8, /counts little.*may not get there/],
    ['far wetter: water may stand', 0.5, 0.48, 0, /counts little.*may stand/],
    ['the plan has moved: nothing more is said', 0.4, 0.7, 0.8, /now for 70\s%\. No water/],
  ])('%s', async (_, was, is, felt, words) => {
    const { found } = await within(useFeeling)
    expect(found.answer(was, page(is, felt))).toMatch(words)
  })
})
