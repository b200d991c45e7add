/** Every message that a page asks for by name is there, and is words. */
import { describe, expect, it } from 'vitest'
import tasks from '@words/care.en.json'
import own from '../src/i18n/en.json'

const messages = { ...own, task: tasks }

const sources = import.meta.glob('../src/**/*.{vue,ts}', { query: '?raw', import: 'default', eager: true })
const CALL = /(?<![\w.])t\(/g
const NAME = /'([a-zA-Z]\w*(?:\.\w+)+)'/g

const STEM = /`([a-zA-Z]\w*(?:\.\w+)*)\.\$\{/g

/** What stands between the parentheses of each call that asks for words, nested ones and choices of two names too. */
function calls(text: string): string[] {
  return [...text.matchAll(CALL)].map((match) => {
    const from = match.index + match[0].length
    let at = from
    for (let open = 1; open > 0 && at < text.length; at++) open += { '(': 1, ')': -1 }[text[at]!] ?? 0
    return text.slice(from, at)
  })
}

function found(key: string): unknown {
  return key.split('.').reduce<unknown>((at, part) => (at as Record<string, unknown> | undefined)?.[part], messages)
}

describe('messages', () => {
  it('has words for every name', () => {
    const asked = Object.values(sources).flatMap((text) =>
      calls(text as string).flatMap((call) => [...call.matchAll(NAME)].map((m) => m[1]!)),
    )
    expect(asked.length).toBeGreaterThan(500)
    expect([...new Set(asked)].filter((key) => typeof found(key) !== 'string')).toEqual([])
  })

  it('has names for whatever is put together', () => {
    const stems = Object.values(sources).flatMap((text) =>
      calls(text as string).flatMap((call) => [...call.matchAll(STEM)].map((m) => m[1]!)),
    )
    expect(stems.length).toBeGreaterThan(50)
    expect([...new Set(stems)].filter((stem) => typeof found(stem) !== 'object')).toEqual([])
  })
})
