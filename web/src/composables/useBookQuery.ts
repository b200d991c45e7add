/** What of the book is looked for, kept in the address: it can be linked, gone back to and sent to someone. */
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { WHAT } from '@/composables/useBook'
import { kindsCalled } from '@/i18n'

export interface BookQuery {
  site: string
  what: string
  who: string
  first: string
  last: string
  q: string
  undone: boolean
}

export function useBookQuery() {
  const route = useRoute()
  const router = useRouter()
  const word = (name: string) => (typeof route.query[name] === 'string' ? (route.query[name] as string) : '')
  const query = computed<BookQuery>(() => ({
    site: word('site'),
    what: WHAT[word('what')] ? word('what') : 'all',
    who: word('who'),
    first: word('from'),
    last: word('to'),
    q: word('q'),
    undone: word('undone') === '1',
  }))
  function change(part: Partial<BookQuery>) {
    const now = { ...query.value, ...part }
    const kept = {
      site: now.site,
      what: now.what === 'all' ? '' : now.what,
      who: now.who,
      from: now.first,
      to: now.last,
      q: now.q,
      undone: now.undone ? '1' : '',
    }
    void router.replace({ query: Object.fromEntries(Object.entries(kept).filter(([, value]) => value)) })
  }
  const clear = () => void router.replace({ query: {} })
  /** As the API takes it. */
  const asked = computed(() => {
    const now = query.value
    return {
      site_id: now.site || undefined,
      kind: WHAT[now.what]!.length ? WHAT[now.what] : undefined,
      person_id: now.who || undefined,
      first: now.first || undefined,
      last: now.last || undefined,
      q: now.q || undefined,
      called: kindsCalled(now.q),
      undone: now.undone || undefined,
    }
  })
  return { query, asked, change, clear }
}
