/** A form loses nothing: what is missing or wrong stands beside its field, drafts outlive the page until they are kept. */
import { beforeEach, describe, expect, test, vi } from 'vitest'
import { nextTick } from 'vue'
import { Problem } from '@/api/client'
import { useForm } from '@/composables/useForm'
import { living } from './within'

const kept = new Map<string, string>()
vi.stubGlobal('sessionStorage', {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
  removeItem: (key: string) => kept.delete(key),
})
vi.stubGlobal('document', { querySelector: () => null, activeElement: null })
const blank = { name: '', people: 2 as number | '', version: null as number | null }
const opened = async (key = 'crew') => (await living(() => useForm(key, { ...blank }))).found
const settled = async () => {
  for (let n = 0; n < 4; n++) await nextTick()
}

describe('a form', () => {
  beforeEach(() => kept.clear())

  test('asks for what is required before it sends anything', async () => {
    const of = await opened()
    const write = vi.fn(async () => 1)
    expect(await of.save(['name', 'people'], write)).toBe(false)
    expect(write).not.toHaveBeenCalled()
    expect(Object.keys(of.errors.value)).toEqual(['name'])
    of.form.name = 'North'
    expect(await of.save(['name', 'people'], write)).toBe(true)
    expect([Object.keys(of.errors.value), of.refused.value]).toEqual([[], ''])
  })

  test('sends nothing while a measure can not be read', async () => {
    const of = await opened()
    of.form.name = 'North'
    of.unreadable.people = true
    const write = vi.fn(async () => 1)
    expect(await of.save([], write)).toBe(false)
    expect(write).not.toHaveBeenCalled()
    expect(of.refused.value).not.toBe('')
  })

  test('is there again after a reload, and gone once it is kept or given up', async () => {
    const first = await opened()
    first.form.name = 'Nor'
    await settled()
    const second = await opened()
    expect(second.form.name).toBe('Nor')
    second.fill({ name: 'North', people: 3 })
    expect(second.form.name, 'what was typed is not written over').toBe('Nor')
    expect(await second.save([], async () => 1)).toBe(true)
    const third = await opened()
    expect(third.form.name).toBe('')
    third.form.name = 'South'
    await settled()
    third.discard()
    expect((await opened()).form.name).toBe('')
  })

  test('shows what is stored, which is no draft', async () => {
    const of = await opened()
    of.fill({ name: 'North', version: 4 })
    await settled()
    expect([of.form.name, of.form.version, kept.size]).toEqual(['North', 4, 0])
  })

  test('puts what was refused beside its field, and the rest at its foot', async () => {
    const of = await opened()
    const fields = { people: 'must be 1 or more', yard: 'is not there' }
    expect(await of.save([], () => Promise.reject(new Problem(422, 'wrong', '', fields)))).toBe(false)
    expect(of.errors.value.people).toBe('must be 1 or more')
    expect(of.other.value).toEqual([['yard', 'is not there']])
    expect(of.busy.value).toBe(false)
  })

  test('that somebody else changed meanwhile is told, and the next try is on the new one', async () => {
    const of = await opened()
    of.fill({ name: 'North', version: 4 })
    await settled()
    const stale = Object.assign(new Problem(409, 'stale', '', {}), { version: 6 })
    expect(await of.save([], () => Promise.reject(stale))).toBe(false)
    expect(of.form.version).toBe(6)
    expect(of.form.name).toBe('North')
    expect(of.refused.value).not.toBe('')
  })
})
