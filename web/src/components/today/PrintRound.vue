<script setup lang="ts">
/** The round on one sheet of paper: a box to tick, which tree, how much, how long, the proof. Only for print. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import { useFeeling } from '@/composables/useFeeling'
import { useHow } from '@/composables/useHow'
import { pourOf, type Row } from '@/composables/useRound'
import { clockTime, fullDay } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{
  day: string
  groups: { key: string; stop: string | null; rows: Row[]; all: number }[]
  total: number
  notes: string[]
}>()
const { t } = useI18n()
const { feltWords } = useFeeling()
const { how, proof } = useHow()

interface Printed {
  key: string
  name: string
  place: string
  words: string
  litres: string
  got: string
}
/** What a tree was given so far, or why it was not. */
function given(entries: Schema['EntryOut'][], zone: string): string {
  return entries
    .map((e) =>
      e.volume_l
        ? `${text('volume', e.volume_l)} ${clockTime(e.happened_at, zone)}`
        : e.reason
          ? t(`skip.${e.reason}`)
          : feltWords(e),
    )
    .filter(Boolean)
    .join(', ')
}
/** Trees on one valve are one row: it is opened once. */
function rowsOf(rows: Row[]): Printed[] {
  const printed: Printed[] = []
  const valves = new Set<string>()
  for (const { tree, site } of rows) {
    const words = tree.next
      ? `${how(pourOf(tree.next), { ...tree, method: tree.next.method })}; ${proof(tree.next.proof_depth_m)}`
      : ''
    const shares = tree.line?.shares ?? []
    if (tree.line && shares.length > 1) {
      if (valves.has(tree.line.name)) continue
      valves.add(tree.line.name)
      printed.push({
        key: tree.line.name,
        name: tree.line.name,
        place: t('today.onValve', { n: shares.length, first: shares[0]!.tag, last: shares[shares.length - 1]!.tag }),
        words,
        litres: text(
          'volume',
          shares.reduce((sum, s) => sum + s.litres, 0),
          0,
        ),
        got: given(tree.entries, site.zone),
      })
    } else {
      printed.push({
        key: tree.id,
        name: tree.tag,
        place: tree.place,
        words,
        litres: tree.next ? text('volume', pourOf(tree.next).litres) : '',
        got: given(tree.entries, site.zone),
      })
    }
  }
  return printed
}
/** What the crew must know of a stop's trees, each note once, with the trees that it is for. */
function notesOf(rows: Row[]): { note: string; tags: string }[] {
  const tags = new Map<string, string[]>()
  for (const { tree } of rows) {
    if (tree.note_for_crew) tags.set(tree.note_for_crew, [...(tags.get(tree.note_for_crew) ?? []), tree.tag])
  }
  return [...tags].map(([note, own]) => ({ note, tags: own.join(', ') }))
}
/** How to pour is said once for a stop where it is the same at each of its trees. */
function together(printed: Printed[]): string {
  const words = new Set(printed.map((p) => p.words).filter(Boolean))
  return printed.length > 1 && words.size === 1 ? [...words][0]! : ''
}
const groups = computed(() =>
  props.groups.map((g) => {
    const printed = rowsOf(g.rows)
    return { ...g, printed, words: together(printed), notes: notesOf(g.rows) }
  }),
)
</script>

<template>
  <div class="sheet print-only">
    <h1>{{ t('today.printed', { day: fullDay(day) }) }}: {{ text('volume', total, 0) }}</h1>
    <p v-for="words in notes" :key="words">{{ words }}</p>
    <table>
      <tbody v-for="g in groups" :key="g.key">
        <tr>
          <th colspan="4">
            {{ g.stop ?? t('today.noStop') }}, {{ g.rows[0]?.site.name
            }}<span v-if="g.words" class="words">{{ g.words }}</span>
          </th>
          <th>{{ text('volume', g.all, 0) }}</th>
          <th>{{ t('today.got') }}</th>
        </tr>
        <tr v-for="p in g.printed" :key="p.key">
          <td class="box"><span :class="{ ticked: p.got && !p.litres }" /></td>
          <td>
            <strong>{{ p.name }}</strong>
          </td>
          <td :colspan="g.words ? 2 : 1">{{ p.place }}</td>
          <td v-if="!g.words">{{ p.words }}</td>
          <td>
            <strong>{{ p.litres }}</strong>
          </td>
          <td class="got">{{ p.got }}</td>
        </tr>
        <tr v-for="n in g.notes" :key="n.note">
          <td class="box" />
          <td colspan="5">
            <strong>{{ n.tags }}</strong>: {{ n.note }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.sheet {
  font-family: var(--condensed);
}
h1 {
  font-size: 14pt;
  margin-bottom: 3pt;
}
p {
  margin: 0;
  font-size: 10pt;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 10pt;
  line-height: 1.05;
}
tr {
  break-inside: avoid;
}
th {
  text-align: left;
  border-bottom: 1.25pt solid var(--print-ink);
  padding: 3.5pt 6pt 0.5pt 0;
  vertical-align: bottom;
}
th .words {
  font-weight: 400;
  margin-left: 8pt;
}
td {
  border-bottom: 0.5pt solid var(--print-hair);
  padding: 0.8pt 6pt 0.8pt 0;
}
td:nth-child(2),
td:nth-child(3) {
  white-space: nowrap;
}
.box span {
  display: block;
  width: 8pt;
  height: 8pt;
  border: 1pt solid var(--print-ink);
}
.box .ticked {
  background: var(--print-ink);
}
.got {
  min-width: 48pt;
}
</style>
