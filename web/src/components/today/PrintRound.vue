<script setup lang="ts">
/** The round on one sheet of paper: a box to tick, which tree, how much, how long, the proof. Only for print. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useHow } from '@/composables/useHow'
import { pourOf, type Row } from '@/composables/useRound'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'

const props = defineProps<{
  day: string
  groups: { key: string; stop: string | null; rows: Row[]; all: number }[]
  total: number
  notes: string[]
}>()
const { t } = useI18n()
const { how, proof } = useHow()

interface Printed {
  key: string
  name: string
  place: string
  words: string
  litres: string
}
/** Trees on one valve are one row: it is opened once. */
function rowsOf(rows: Row[]): Printed[] {
  const printed: Printed[] = []
  const valves = new Set<string>()
  for (const { tree } of rows) {
    const words = tree.next ? `${how(pourOf(tree.next), tree)}; ${proof(tree.next.proof_depth_m)}` : ''
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
      })
    } else {
      printed.push({
        key: tree.id,
        name: tree.tag,
        place: tree.place,
        words,
        litres: tree.next ? text('volume', pourOf(tree.next).litres) : '',
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
const MANY = 44
/** A long round is set smaller, so that it stays one sheet. */
const tight = computed(() => groups.value.reduce((n, g) => n + g.printed.length + g.notes.length + 1, 0) > MANY)
const groups = computed(() => props.groups.map((g) => ({ ...g, printed: rowsOf(g.rows), notes: notesOf(g.rows) })))
</script>

<template>
  <div class="sheet print-only" :class="{ tight }">
    <h1>{{ t('today.printed', { day: fullDay(day) }) }}: {{ text('volume', total, 0) }}</h1>
    <p v-for="words in notes" :key="words">{{ words }}</p>
    <table>
      <tbody v-for="g in groups" :key="g.key">
        <tr>
          <th colspan="4">{{ g.stop ?? t('today.noStop') }}, {{ g.rows[0]?.site.name }}</th>
          <th>{{ text('volume', g.all, 0) }}</th>
          <th>{{ t('today.got') }}</th>
        </tr>
        <tr v-for="p in g.printed" :key="p.key">
          <td class="box"><span /></td>
          <td>
            <strong>{{ p.name }}</strong>
          </td>
          <td>{{ p.place }}</td>
          <td>{{ p.words }}</td>
          <td>
            <strong>{{ p.litres }}</strong>
          </td>
          <td class="got" />
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
h1 {
  font-size: 15pt;
  margin-bottom: 6pt;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 8pt;
  line-height: 1.05;
}
th {
  text-align: left;
  border-bottom: 1.5pt solid var(--print-ink);
  padding: 4pt 6pt 1pt 0;
}
td {
  border-bottom: 0.5pt solid var(--print-hair);
  padding: 1.2pt 6pt 1.2pt 0;
}
td:nth-child(2),
td:nth-child(3) {
  white-space: nowrap;
}
.tight table {
  font-size: 7.2pt;
  line-height: 1;
}
.tight td {
  padding: 0.7pt 6pt 0.7pt 0;
}
.tight th {
  padding-top: 2.5pt;
}
.tight .box span {
  width: 6.5pt;
  height: 6.5pt;
}
.box span {
  display: block;
  width: 8pt;
  height: 8pt;
  border: 1pt solid var(--print-ink);
}
.got {
  width: 44pt;
}
</style>
