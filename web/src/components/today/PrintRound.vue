<script setup lang="ts">
/** The round on one sheet of paper: a box to tick, which tree, how much, how long, the proof. Only for print. */
import { useI18n } from 'vue-i18n'
import { useHow } from '@/composables/useHow'
import { pourOf, type Row } from '@/composables/useRound'
import { fullDay } from '@/logic/dates'
import { text } from '@/units'

defineProps<{ day: string; groups: { key: string; stop: string | null; rows: Row[]; all: number }[]; total: number }>()
const { t } = useI18n()
const { how, proof } = useHow()
</script>

<template>
  <div class="sheet print-only">
    <h1>{{ t('today.printed', { day: fullDay(day) }) }}: {{ text('volume', total, 0) }}</h1>
    <table>
      <tbody v-for="g in groups" :key="g.key">
        <tr>
          <th colspan="4">{{ g.stop ?? t('today.noStop') }}, {{ g.rows[0]?.site.name }}</th>
          <th>{{ text('volume', g.all, 0) }}</th>
          <th>{{ t('today.got') }}</th>
        </tr>
        <tr v-for="{ tree } in g.rows" :key="tree.id">
          <td class="box"><span /></td>
          <td>
            <strong>{{ tree.tag }}</strong>
          </td>
          <td>{{ tree.place }}</td>
          <td>{{ tree.next ? `${how(pourOf(tree.next), tree)}; ${proof(tree.next.proof_depth_m)}` : '' }}</td>
          <td>
            <strong>{{ tree.next ? text('volume', pourOf(tree.next).litres) : '' }}</strong>
          </td>
          <td class="got" />
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
  border-bottom: 1.5pt solid #000;
  padding: 4pt 6pt 1pt 0;
}
td {
  border-bottom: 0.5pt solid #777;
  padding: 1.2pt 6pt 1.2pt 0;
}
.box span {
  display: block;
  width: 8pt;
  height: 8pt;
  border: 1pt solid #000;
}
.got {
  width: 44pt;
}
</style>
