import { describe, expect, it } from 'vitest'
import { afterDay, asMinutes, asTime, canStop, inOrder, isWrong, ofDay } from '@/logic/boxes'

const run = (change: object) =>
  ({ id: 'r', state: 'sent', starts_at: '2026-07-15T10:00:00Z', believed: null, verdict: null, ...change }) as never

describe('boxes at valves', () => {
  it('tells what runs, then what will run, then what was', () => {
    const some = [
      run({ id: 'done', state: 'done', starts_at: '2026-07-15T08:00:00Z' }),
      run({ id: 'later', starts_at: '2026-07-15T12:00:00Z' }),
      run({ id: 'soon' }),
      run({ id: 'now', state: 'running' }),
    ]
    expect(inOrder(some).map((one) => one.id)).toEqual(['now', 'soon', 'later', 'done'])
    expect(some.filter(canStop)).toHaveLength(3)
  })

  it('says what somebody has to look at', () => {
    const wrong = [{ verdict: 'clogging' }, { verdict: 'burst' }, { believed: false }, { state: 'missed' }]
    expect(wrong.every((change) => isWrong(run(change)))).toBe(true)
    expect(isWrong(run({ state: 'done', verdict: 'fine', believed: true }))).toBe(false)
  })

  it('counts a run to its civil day at the site', () => {
    const box = { timezone: 'America/Denver', runs: [run({ starts_at: '2026-07-16T05:30:00Z' })] } as never
    expect(ofDay(box, '2026-07-15')).toHaveLength(1)
    expect(ofDay(box, '2026-07-16')).toHaveLength(0)
  })

  it('tells of the days after what can still be stopped', () => {
    const runs = [
      run({ id: 'today' }),
      run({ id: 'tomorrow', starts_at: '2026-07-16T10:00:00Z' }),
      run({ id: 'stopped', state: 'stopped', starts_at: '2026-07-16T10:00:00Z' }),
    ]
    const box = { timezone: 'America/Denver', runs } as never
    expect(afterDay(box, '2026-07-15').map((one) => one.id)).toEqual(['tomorrow'])
  })

  it('takes hours as a time field has them', () => {
    expect(asTime(245)).toBe('04:05')
    expect(asTime(1440)).toBe('23:59')
    expect(asMinutes('04:05')).toBe(245)
    expect(asMinutes('')).toBeNull()
  })
})
