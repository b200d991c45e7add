/** What is done on a round: pours, clocks, skips, things seen, whole stops, undo; each with the words that tell it. */
import { computed, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, take, type Schema } from '@/api/client'
import { pouredL, ranMin } from '@/logic/clocks'
import { text } from '@/units'
import { useActing } from './useActing'
import { useClocks } from './useClocks'
import { useLogging } from './useLogging'
import type { Entry as Tried, Sending } from './usePictures'
import { pourOf, type Row, type useRound } from './useRound'

type Entry = Schema['EntryIn']
const minutesOf = (value: number) => Math.round(value * 10) / 10

export function useRoundActs({ rows, current, after, chosen, load }: ReturnType<typeof useRound>) {
  const { t } = useI18n()
  const { busy, said, failed, act } = useActing(load)
  const { water, waterAll, waterLine, skip, note, feel, undo, move } = useLogging()
  const { running, of, start: startClock, stop: stopClock, now } = useClocks()
  const ticking = computed(() => (current.value ? of(current.value.tree.id) : null))
  /** Litres and minutes that ran until the other button was pressed; null where no clock runs. */
  const ran = ref<{ litres: number; minutes: number } | null>(null)
  const other = ref(false)

  async function logWater({ tree }: Row, litres: number, minutes: number | null) {
    const line = tree.line
    const mates = new Set(line?.shares.map((s) => s.tree_id))
    const next = line ? null : (after.value?.tree.id ?? null)
    const words = line
      ? t('today.loggedLine', { line: line.name, n: line.shares.length }, line.shares.length)
      : t('today.logged', { tag: tree.tag, amount: text('volume', litres) })
    const done = await act(async () => {
      const entry = await (line ? waterLine(line, tree.id, litres, minutes) : water(tree.id, litres, minutes))
      if (entry !== null && chosen.value === tree.id) chosen.value = next
      return entry
    }, words)
    if (done) [tree.id, ...mates].forEach((id) => stopClock(id))
  }
  function logPlanned() {
    const row = current.value
    if (!row) return
    const pour = pourOf(row.tree.next!)
    void logWater(row, pour.litres, minutesOf(pour.run_min))
  }
  function runClock() {
    const row = current.value
    if (!row) return
    const pour = pourOf(row.tree.next!)
    startClock({ treeId: row.tree.id, tag: row.tree.tag, litres: pour.litres, runMin: pour.run_min, goes: pour.goes })
    if (after.value) chosen.value = after.value.tree.id
  }
  function openOther() {
    const clock = ticking.value?.clock
    ran.value = clock ? { litres: pouredL(clock, now.value), minutes: minutesOf(ranMin(clock, now.value)) } : null
    other.value = true
  }
  const logOther = (litres: number) => void logWater(current.value!, litres, ran.value?.minutes ?? null)
  /** A tree that was found gone: what became of it is asked for next. */
  const gone = shallowRef<Schema['TreeOut'] | null>(null)
  async function logSkip(reason: Entry['reason']) {
    const { tree } = current.value!
    if (!(await act(() => skip(tree.id, reason), t('today.skipped', { tag: tree.tag })))) return
    stopClock(tree.id)
    if (reason !== 'tree_gone') return
    gone.value = await take(api.GET('/api/trees/{tree_id}', { params: { path: { tree_id: tree.id } } })).catch(
      () => null,
    )
  }
  function logSeen(kind: Entry['seen'], words: string, as: Tried, send: Sending) {
    const { tree } = current.value!
    return act(() => note(tree.id, words, kind, as, send), t('today.seenDone', { tag: tree.tag }))
  }
  const feeling = ref(false)
  /** The tree that is being felt stays the one in hand, whatever the plan says to it. */
  const felt = shallowRef<Row | null>(null)
  function openFeel() {
    felt.value = current.value
    feeling.value = true
  }
  async function logFelt(how: Entry['how'], where: 'ball' | 'ring', what: Entry['ball_feel']) {
    const { tree } = felt.value!
    if (!(await act(() => feel(tree.id, how, where, what), ''))) return false
    const next = rows.value.find((r) => r.tree.id === tree.id)?.tree.next
    said.value = next
      ? t('feel.nowToday', { tag: tree.tag, amount: text('volume', pourOf(next).litres) })
      : t('feel.canWait', { tag: tree.tag })
    return true
  }
  async function logWhole(whole: Row[], stop: string) {
    const trees = whole.map(({ tree }) => {
      const pour = pourOf(tree.next!)
      return { id: tree.id, litres: pour.litres, minutes: minutesOf(pour.run_min) }
    })
    const words = t('today.loggedStop', { stop, n: trees.length }, trees.length)
    if (await act(() => waterAll(trees), words)) trees.forEach((tree) => stopClock(tree.id))
  }
  function moveEntry(entry: Schema['EntryOut'], tree: Schema['TreeRow']) {
    void act(() => move(entry, tree.id), t('today.moved', { tag: tree.tag }))
  }
  function undoEntry(entry: Schema['EntryOut']) {
    const tag = rows.value.find((r) => r.tree.id === entry.tree_id)?.tree.tag ?? ''
    void act(() => undo(entry), t('today.undone', { tag }))
  }
  return {
    busy,
    said,
    failed,
    running,
    ticking,
    now,
    ran,
    other,
    gone,
    stopClock,
    logPlanned,
    runClock,
    openOther,
    logOther,
    logSkip,
    logSeen,
    feeling,
    felt,
    openFeel,
    logFelt,
    logWhole,
    moveEntry,
    undoEntry,
  }
}
