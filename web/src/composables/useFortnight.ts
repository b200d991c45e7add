/** The fortnight: what was chosen, a visit that is being moved, and what is kept of it. No arithmetic of the trade. */
import { computed, ref, shallowRef } from 'vue'
import { api, newId, persist, take, type Schema } from '@/api/client'
import { useActing } from '@/composables/useActing'
import { dayCount } from '@/composables/useDay'
import { useDevice } from '@/composables/useDevice'
import { useResource } from '@/composables/useResource'
import { system } from '@/units'

export type TreeAhead = Schema['TreeAheadOut']
export type VisitAhead = Schema['VisitOut']

export const litresOf = (visit: VisitAhead) => (system.value === 'us' ? visit.litres_us : visit.litres)

/** A visit that is lifted off its day. */
export interface Lifted {
  tree: TreeAhead
  from: number
  to: number
  tried: Schema['TryOut'] | null
}

export function useFortnight(site: () => string) {
  const resource = useResource(
    (signal) => take(api.GET('/api/fortnight', { params: { query: { site_id: site() || undefined } }, signal })),
    [site, dayCount],
    { live: true },
  )
  const { person, ensurePerson } = useDevice()
  const acting = useActing(resource.load)
  const lifted = shallowRef<Lifted | null>(null)
  const waiting = ref(false)
  let asked = 0

  const trees = computed(() =>
    (resource.data.value?.sites ?? []).flatMap((s) =>
      s.stops.flatMap((stop) => stop.trees.map((tree) => ({ site: s, stop, tree }))),
    ),
  )
  const placeOf = (id: string) => trees.value.find((one) => one.tree.id === id) ?? null

  /** Ask what it would come to; the newest answer alone counts. */
  async function bend() {
    const now = lifted.value
    if (!now) return
    const mine = ++asked
    const days = now.tree.visits.map((v) => v.day).filter((day) => day !== now.from)
    if (!days.includes(now.to)) days.push(now.to)
    const found = await take(
      api.POST('/api/fortnight/try', { body: { tree_id: now.tree.id, days: days.sort((a, b) => a - b) } }),
    )
    if (mine === asked && lifted.value) lifted.value = { ...lifted.value, tried: found }
  }
  function lift(tree: TreeAhead, day: number) {
    lifted.value = { tree, from: day, to: day, tried: null }
  }
  function moveTo(day: number) {
    if (!lifted.value || day < 0 || day > 13 || day === lifted.value.to) return
    lifted.value = { ...lifted.value, to: day, tried: null }
    if (day !== lifted.value.from) void bend().catch(() => undefined)
  }
  const back = () => (lifted.value = null)

  async function wish(
    tree: TreeAhead,
    day: number,
    what: Schema['WishIn']['wish'],
    words: string,
    instead: number | null = null,
  ) {
    if (!(await ensurePerson())) return false
    const days = resource.data.value!.days
    const body = {
      tree_id: tree.id,
      day: days[day]!,
      wish: what,
      instead_of: instead === null ? null : days[instead]!,
      person_id: person.value?.id ?? null,
    }
    const id = newId()
    return acting.act(
      () => persist(() => api.PUT('/api/wishes/{wish_id}', { params: { path: { wish_id: id } }, body })),
      words,
      { typed: false },
    )
  }
  async function keep(words: string) {
    const now = lifted.value
    if (!now || now.to === now.from) return back()
    const done = await wish(now.tree, now.to, 'pin', words, now.from)
    if (done) back()
  }
  /** Have it chosen again; the page looks until the newer plan is there. */
  async function again(words: string) {
    const before = resource.data.value?.plan_id
    waiting.value = true
    const ask = async () => (await take(api.POST('/api/fortnight/again'))) ?? true
    const sent = await acting.act(ask, words, { typed: false })
    for (let i = 0; sent && i < 60 && resource.data.value?.plan_id === before; i++) {
      await new Promise((r) => setTimeout(r, 1000))
      await resource.load()
    }
    waiting.value = false
    if (sent) acting.said.value = ''
  }
  return { ...resource, ...acting, trees, placeOf, lifted, lift, moveTo, keep, back, wish, again, waiting }
}
