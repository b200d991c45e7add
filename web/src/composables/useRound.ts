/** Today's round, flattened for a screen: what is open, what is done, which tree is next. No arithmetic of the trade. */
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, mayLag, take, type Schema } from '@/api/client'
import { lost } from '@/api/connection'
import { civilDay } from '@/logic/dates'
import { toldAnew, useOutbox } from '@/offline/outbox'
import { changesOf, overRound, type Changes } from '@/offline/overlay'
import { nowMs } from '@/offline/time'
import { system } from '@/units'
import { dayCount } from './useDay'
import { useDevice } from './useDevice'
import { useResource } from './useResource'
import { useSession } from './useSession'

/** More stops than any crew's day has. */
const MANY = 1000

export interface Row {
  site: Schema['RoundSite']
  stop: string | null
  tree: Schema['RoundTree']
  /** The tank must be filled before it. */
  fillFirst: boolean
}

/** A day of which nothing was taken along. */
const bare = (of: Schema['RoundOut'], day: string): Schema['RoundOut'] => ({
  ...of,
  day,
  work: null,
  fills: [],
  sites: of.sites.map((site) => ({ ...site, stops: [], waiting: [], look_at: [], care: [], cautions: [] })),
})

export function pourOf(next: Schema['Next']): Schema['PourOut'] {
  return system.value === 'us' ? next.us : next.metric
}

export function useRound() {
  const { overlaid, own, unsent } = useOutbox()
  /** What a newer plan wants otherwise than what was gone by without signal. */
  const changes = shallowRef<Changes | null>(null)
  let goneBy: Schema['RoundOut'] | null = null
  function compare(round: Schema['RoundOut']) {
    if (!goneBy || own.value.length) return
    changes.value = changesOf(goneBy, round)
    goneBy = null
  }
  /** A phone without signal goes by the day's plan as it took it along; false on the day that the round is of. */
  const isAhead = ref(false)
  async function fetchRound(signal: AbortSignal): Promise<Schema['RoundOut']> {
    const asked_ms = performance.now()
    const round = await take(api.GET('/api/today', { signal, headers: mayLag() }))
    if (!lost.value) {
      toldAnew(asked_ms)
      compare(round)
    }
    const zone = round.sites[0]?.zone
    const today = zone ? civilDay(nowMs(), zone) : round.day
    isAhead.value = lost.value && today > round.day
    if (!isAhead.value) return round
    const days = await take(api.GET('/api/today/ahead', { signal })).catch(() => [])
    return days.find((one) => one.day === today) ?? bare(round, today)
  }
  const resource = useResource(fetchRound, [dayCount], { live: true })

  const { me } = useSession()
  const { person } = useDevice()
  const whole = computed(() => {
    const told = resource.data.value
    return told && overRound(told, overlaid.value, me.value?.name ?? person.value?.name ?? null, unsent.value)
  })
  watch([lost, whole], ([isLost, now]) => {
    if (isLost && now) goneBy = now
  })
  const chosen = ref<string | null>(null)
  /** Whose round this device shows: a crew's, or all. */
  const crew = useLocalStorage('june-shade-crew', '')
  const crews = computed(() => {
    const found = new Map<string, { id: string; name: string }>()
    for (const s of whole.value?.sites ?? []) if (s.crew && !s.crew.of_site) found.set(s.crew.id, s.crew)
    return [...found.values()]
  })
  const ofCrew = computed(() => (crews.value.some((c) => c.id === crew.value) ? crew.value : ''))
  const data = computed(() => {
    const all = whole.value
    if (!all || !ofCrew.value) return all
    return { ...all, sites: all.sites.filter((s) => s.crew?.id === ofCrew.value) }
  })

  /** Crews one after the other, each in its driving order; what was not planned comes last, as it stands. */
  const by = ({ site, stop }: { site: Schema['RoundSite']; stop: Schema['RoundStop'] }) =>
    crews.value.findIndex((c) => c.id === site.crew?.id) * MANY + (stop.position ?? MANY - 1)
  const rows = computed<Row[]>(() => {
    const fills = new Set(data.value?.fills)
    return (data.value?.sites ?? [])
      .flatMap((site) => site.stops.map((stop) => ({ site, stop })))
      .sort((a, b) => by(a) - by(b))
      .flatMap(({ site, stop }) =>
        stop.trees.map((tree) => ({ site, stop: stop.name, tree, fillFirst: fills.has(tree.id) })),
      )
  })
  const open = computed(() => rows.value.filter((r) => r.tree.next && !r.tree.skipped))
  const skipped = computed(() => rows.value.filter((r) => r.tree.skipped))
  const current = computed(() => open.value.find((r) => r.tree.id === chosen.value) ?? open.value[0] ?? null)
  const after = computed(() => {
    const at = open.value.findIndex((r) => r.tree.id === current.value?.tree.id)
    return open.value[at + 1] ?? null
  })
  const doneL = (tree: Schema['RoundTree']) => tree.entries.reduce((sum, e) => sum + (e.volume_l ?? 0), 0)
  const openL = (tree: Schema['RoundTree']) => (tree.next && !tree.skipped ? pourOf(tree.next).litres : 0)
  const groups = computed(() => {
    const made: {
      key: string
      site: Schema['RoundSite']
      stop: string | null
      rows: Row[]
      done: number
      all: number
      /** Share of the stop's water at which the tank must be filled, each time. */
      fills: number[]
    }[] = []
    for (const row of rows.value) {
      const key = `${row.site.id}/${row.stop}`
      let group = made.find((g) => g.key === key)
      if (!group) made.push((group = { key, site: row.site, stop: row.stop, rows: [], done: 0, all: 0, fills: [] }))
      group.rows.push(row)
      if (row.fillFirst) group.fills.push(group.all)
      group.done += doneL(row.tree)
      group.all += doneL(row.tree) + openL(row.tree)
    }
    return made.map((g) => ({ ...g, fills: g.fills.map((litres) => (g.all ? litres / g.all : 0)) }))
  })
  const done = computed(() => groups.value.reduce((sum, g) => sum + g.done, 0))
  const all = computed(() => groups.value.reduce((sum, g) => sum + g.all, 0))
  return {
    ...resource,
    data,
    isAhead,
    changes,
    crew,
    crews,
    ofCrew,
    rows,
    open,
    skipped,
    current,
    after,
    chosen,
    groups,
    done,
    all,
    doneL,
    openL,
  }
}
