import { describe, expect, it } from 'vitest'
import { settled, type Moment } from '@/offline/time'

const DAY = 86_400_000
const HOUR = 3_600_000
/** The program's time is 100 h ahead of the device's, as in the demo. */
const AHEAD = 100 * HOUR
const entered = (device_ms: number, known_ms: number): Moment => ({
  at_ms: device_ms + AHEAD,
  device_ms,
  ahead_ms: AHEAD,
  known_ms,
})

describe('when something was entered', () => {
  const KNOWN = 500 * HOUR
  const at = KNOWN - AHEAD + 2 * HOUR // two hours after the last signal, on the device's clock

  it('is as the device said where its clock was right', () => {
    const now = { server_ms: KNOWN + 6 * HOUR, device_ms: at + 4 * HOUR }
    expect(settled(entered(at, KNOWN), now)).toBe(KNOWN + 2 * HOUR)
  })
  it('is put right where the clock was set a day ahead and still is', () => {
    const now = { server_ms: KNOWN + 6 * HOUR, device_ms: at + DAY + 4 * HOUR }
    expect(settled(entered(at + DAY, KNOWN), now)).toBe(KNOWN + 2 * HOUR)
  })
  it('can not be told where it was a day ahead and was set right meanwhile', () => {
    const now = { server_ms: KNOWN + 6 * HOUR, device_ms: at + 4 * HOUR }
    expect(settled(entered(at + DAY, KNOWN), now)).toBeNull()
  })
  it('can not be told where the clock was in 2019 and was set right meanwhile', () => {
    const now = { server_ms: KNOWN + 6 * HOUR, device_ms: at + 4 * HOUR }
    expect(settled(entered(at - 2000 * DAY, KNOWN), now)).toBeNull()
  })
  it('is reckoned from now where the clock is in 2019 still', () => {
    const wrong = at - 2000 * DAY
    const now = { server_ms: KNOWN + 6 * HOUR, device_ms: wrong + 4 * HOUR }
    expect(settled(entered(wrong, KNOWN), now)).toBe(KNOWN + 2 * HOUR)
  })
  it('is asked where both could be and they differ', () => {
    const now = { server_ms: KNOWN + 10 * DAY, device_ms: at + 3 * DAY + 6 * HOUR }
    expect(settled(entered(at, KNOWN), now)).toBeNull()
  })
  it('never lies ahead of the program, whatever small steps clocks make', () => {
    const now = { server_ms: KNOWN + 2 * HOUR - 60_000, device_ms: at }
    expect(settled(entered(at, KNOWN), now)).toBeLessThanOrEqual(now.server_ms)
  })
})
