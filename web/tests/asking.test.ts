/** Questions and writes of a view: the newest answer stands, a failure loses nothing, one write at a time. */
import { beforeAll, describe, expect, test, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { Problem } from '@/api/client'
import { useActing } from '@/composables/useActing'
import { useResource } from '@/composables/useResource'
import { within } from './within'

/** Answers that are given when the test says so. */
function questions() {
  const open: { answer: (words: string) => void; fail: (e: unknown) => void; signal: AbortSignal }[] = []
  const ask = (signal: AbortSignal) =>
    new Promise<string>((answer, fail) => {
      open.push({ answer, fail, signal })
    })
  return { open, ask }
}
const settled = async () => {
  for (let n = 0; n < 5; n++) await nextTick()
}

describe('a question', () => {
  test('asked anew, the older answer comes too late and says nothing', async () => {
    const { open, ask } = questions()
    const tree = ref('a')
    const scope = effectScope()
    const of = scope.run(() => useResource(ask, [tree]))!
    tree.value = 'b'
    await settled()
    expect(open).toHaveLength(2)
    expect(open[0]!.signal.aborted).toBe(true)
    open[1]!.answer('of b')
    await settled()
    open[0]!.answer('of a')
    await settled()
    expect([of.data.value, of.loading.value, of.error.value]).toEqual(['of b', false, null])
    scope.stop()
  })

  test('that fails leaves what is there, and says so where nothing is', async () => {
    const { open, ask } = questions()
    const scope = effectScope()
    const of = scope.run(() => useResource(ask))!
    open[0]!.fail(new Problem(503, 'offline', '', {}))
    await settled()
    expect(of.error.value?.status).toBe(503)
    void of.load()
    open[1]!.answer('there')
    await settled()
    expect([of.data.value, of.error.value]).toEqual(['there', null])
    void of.load()
    open[2]!.fail(new Problem(0, 'offline', '', {}))
    await settled()
    expect([of.data.value, of.error.value], 'a look again that is not answered').toEqual(['there', null])
    void of.load()
    open[3]!.fail(new Problem(404, 'there is no such tree', '', {}))
    await settled()
    expect(of.error.value?.detail).toBe('there is no such tree')
    scope.stop()
  })

  test('is given up with its view', () => {
    const { open, ask } = questions()
    const scope = effectScope()
    scope.run(() => useResource(ask))
    scope.stop()
    expect(open[0]!.signal.aborted).toBe(true)
  })
})

describe('a write', () => {
  beforeAll(() => vi.stubGlobal('document', { activeElement: null, querySelector: () => null, body: {} }))
  const acting = async (after = vi.fn(async () => undefined)) => ({
    after,
    of: (await within(() => useActing(after))).found,
  })

  test('done, its words stand and the view is asked anew', async () => {
    const { of, after } = await acting()
    expect(await of.act(async () => ({ id: 1 }), 'It is kept.')).toBe(true)
    expect([of.said.value, of.failed.value, of.busy.value]).toEqual(['It is kept.', '', false])
    expect(after).toHaveBeenCalledOnce()
  })

  test('given up by the person, nothing is said', async () => {
    const { of, after } = await acting()
    expect(await of.act(async () => null, 'It is kept.')).toBe(false)
    expect([of.said.value, of.failed.value]).toEqual(['', ''])
    expect(after).not.toHaveBeenCalled()
  })

  test('refused, it says why, and without an answer that it was not sent', async () => {
    const { of } = await acting()
    const refuse = (detail: string) => () => Promise.reject(new Problem(422, detail, '', {}))
    expect(await of.act(refuse('must be above 0'), 'It is kept.')).toBe(false)
    expect(of.failed.value).toContain('must be above 0')
    expect(of.said.value).toBe('')
    await of.act(refuse('offline'), 'It is kept.')
    expect(of.failed.value).not.toContain('offline')
    expect(of.failed.value.length).toBeGreaterThan(10)
    expect(await of.act(async () => 1, 'It is kept.')).toBe(true)
    expect(of.failed.value, 'what was refused before is over').toBe('')
  })
})
