/** Every message that a page asks for by name is there, and is words. */
import { describe, expect, it } from 'vitest'
import tasks from '@words/care.en.json'
import own from '../src/i18n/en.json'

const messages = { ...own, task: tasks }

const sources = import.meta.glob('../src/**/*.{vue,ts}', { query: '?raw', import: 'default', eager: true })
const ASKED = /(?<![\w.])t\(\s*'([a-zA-Z]\w*(?:\.\w+)+)'/g

function found(key: string): unknown {
  return key.split('.').reduce<unknown>((at, part) => (at as Record<string, unknown> | undefined)?.[part], messages)
}

describe('messages', () => {
  it('has words for every name', () => {
    const asked = Object.values(sources).flatMap((text) => [...(text as string).matchAll(ASKED)].map((m) => m[1]!))
    expect(asked.length).toBeGreaterThan(500)
    expect([...new Set(asked)].filter((key) => typeof found(key) !== 'string')).toEqual([])
  })
})
