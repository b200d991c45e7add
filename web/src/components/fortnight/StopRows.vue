<script setup lang="ts">
/** The trees of a stop by day: painted on a canvas, with a grid of cells over it for keys, pointers and readers. */
import { useElementSize, useIntersectionObserver } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import type { Schema } from '@/api/client'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import { litresOf, type Lifted, type TreeAhead } from '@/composables/useFortnight'
import { cellWidth, cellX, dayAt, paint, type Colours, type Frame, type RowDrawn } from '@/drawing/fortnight'
import { longDay } from '@/logic/dates'
import { isUs, show, system, text } from '@/units'
import { treeName } from '@/i18n'

const props = defineProps<{
  trees: TreeAhead[]
  days: string[]
  first: number
  shown: number
  names: number
  outlook: number
  closed: boolean[]
  lifted: Lifted | null
  chosen: { id: string; day: number } | null
}>()
const emit = defineEmits<{
  choose: [tree: TreeAhead, day: number]
  lift: [tree: TreeAhead, day: number]
  move: [day: number]
  keep: []
  back: []
  leave: [tree: TreeAhead, day: number, down: boolean]
}>()
const { t } = useI18n()
const ROW_PX = 56
/** Names so wide have room for a drawing, and for the kind of tree. */
const DRAWN_FROM_PX = 200
const KIND_FROM_PX = 140
const canvas = ref<HTMLCanvasElement | null>(null)
const body = ref<HTMLElement | null>(null)
const { width } = useElementSize(body)
/** A stop is drawn once it comes near the eyes: a contract has hundreds of rows. */
const near = ref(false)
useIntersectionObserver(body, ([seen]) => (near.value ||= Boolean(seen?.isIntersecting)), { rootMargin: '900px' })
const frame = computed<Frame>(() => ({ width: width.value, names: props.names, days: props.shown, row: ROW_PX }))

const words = (visit: Schema['VisitOut']) => show('volume', litresOf(visit)).value
const bentOf = (tree: TreeAhead) => (props.lifted?.tree.id === tree.id ? props.lifted : null)
function visitsOf(tree: TreeAhead) {
  const bent = bentOf(tree)
  if (bent?.tried) return bent.tried.visits
  if (!bent || bent.from === bent.to) return tree.visits
  return tree.visits.map((v) => (v.day === bent.from ? { ...v, day: bent.to } : v))
}
const has = (tree: TreeAhead, day: number, wish: string) => tree.wishes.some((w) => w.day === day && w.wish === wish)
const drawn = (tree: TreeAhead): RowDrawn => {
  const visits = visitsOf(tree).map((v) => ({
    day: v.day,
    litres: v.litres,
    words: words(v),
    pinned: has(tree, v.day, 'pin') || (bentOf(tree)?.to === v.day && bentOf(tree)?.from !== v.day),
    done: false,
    skipped: v.day === 0 && tree.skipped,
  }))
  if (tree.poured_l > 0) {
    const poured = show('volume', tree.poured_l).value
    visits.unshift({ day: 0, litres: tree.poured_l, words: poured, pinned: false, done: true, skipped: false })
  }
  return {
    now: tree.now,
    dryness: tree.dryness,
    limit: tree.limit,
    visits,
    forbidden: tree.wishes.filter((w) => w.wish === 'forbid').map((w) => w.day),
    waits: tree.waits ? t('fortnight.waits') : null,
    hurts: tree.waits_word !== null,
    bent: bentOf(tree)?.tried?.dryness ?? null,
  }
}

function colours(): Colours {
  const style = getComputedStyle(document.documentElement)
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim()
  return {
    ink: of('ink'),
    soft: of('ink-2'),
    root: of('root'),
    soil: of('soil'),
    water: of('water'),
    paper: of('paper'),
    ground: of('ground'),
    hair: of('hair'),
    warning: of('warning'),
    edge: of('soil-edge'),
    font: of('condensed'),
  }
}
function draw() {
  const at = canvas.value
  const ctx = at?.getContext('2d')
  if (!at || !ctx || !width.value) return
  const sharp = window.devicePixelRatio || 1
  const height = ROW_PX * props.trees.length
  at.width = Math.round(width.value * sharp)
  at.height = Math.round(height * sharp)
  ctx.setTransform(sharp, 0, 0, sharp, 0, 0)
  const sheet = { rows: props.trees.map(drawn), first: props.first, outlook: props.outlook, closed: props.closed }
  paint(ctx, frame.value, sheet, colours())
}
watch([near, () => props.trees, () => props.lifted, () => props.first, () => props.shown, width, isUs, system], draw, {
  flush: 'post',
})
onMounted(async () => {
  draw()
  await document.fonts?.ready
  draw()
})

const visible = computed(() => Array.from({ length: props.shown }, (_, i) => i + props.first))
function cellWords(tree: TreeAhead, day: number): string {
  const visit = visitsOf(tree).find((v) => v.day === day)
  const dry = Math.round((tree.dryness[day] ?? 0) * 100)
  const parts = [`${tree.tag}, ${longDay(props.days[day]!)}`]
  if (day === 0 && tree.poured_l > 0) parts.push(t('fortnight.cell.done', { amount: text('volume', tree.poured_l) }))
  if (day === 0 && tree.skipped) parts.push(t('fortnight.cell.skipped'))
  if (visit) parts.push(t('fortnight.cell.visit', { amount: text('volume', litresOf(visit)) }))
  else if (day === 0 && tree.waits) parts.push(t('fortnight.cell.waits'))
  if (has(tree, day, 'pin')) parts.push(t('fortnight.cell.pinned'))
  if (has(tree, day, 'forbid')) parts.push(t('fortnight.cell.forbidden'))
  if (props.closed[day]) parts.push(t('fortnight.cell.closed'))
  parts.push(t('fortnight.cell.dry', { share: dry }))
  return parts.join(', ')
}

const isChosen = (tree: TreeAhead, day: number) => props.chosen?.id === tree.id && props.chosen.day === day
const hasVisit = (tree: TreeAhead, day: number) => tree.visits.some((v) => v.day === day)

function key(e: KeyboardEvent, tree: TreeAhead, day: number) {
  const side = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0
  if (props.lifted) {
    if (side) emit('move', props.lifted.to + side)
    else if (e.key === 'Enter') emit('keep')
    else if (e.key === 'Escape') emit('back')
    else return
  } else if (side) emit('choose', tree, Math.min(props.days.length - 1, Math.max(0, day + side)))
  else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') emit('leave', tree, day, e.key === 'ArrowDown')
  else if ((e.key === 'Enter' || e.key === ' ') && hasVisit(tree, day)) emit('lift', tree, day)
  else return
  e.preventDefault()
}

/** Dragged by a mouse or a pen; a thumb scrolls, and moves by the buttons. */
let dragged = false
function down(e: PointerEvent, tree: TreeAhead, day: number) {
  if (e.pointerType === 'touch' || e.button !== 0 || !hasVisit(tree, day)) return
  const box = body.value!.getBoundingClientRect()
  dragged = false
  const go = (m: PointerEvent) => {
    const to = dayAt(frame.value, m.clientX - box.left)
    if (to === null) return
    const target = to + props.first
    if (!dragged && target === day) return
    if (!dragged) emit('lift', tree, day)
    dragged = true
    emit('move', target)
  }
  const up = () => {
    window.removeEventListener('pointermove', go)
    window.removeEventListener('pointerup', up)
  }
  window.addEventListener('pointermove', go)
  window.addEventListener('pointerup', up)
}
function click(tree: TreeAhead, day: number) {
  if (dragged) dragged = false
  else if (props.lifted?.tree.id === tree.id) emit('move', day)
  else emit('choose', tree, day)
}
</script>

<template>
  <div ref="body" class="body" role="rowgroup" :style="{ height: `${ROW_PX * trees.length}px` }">
    <canvas v-if="near" ref="canvas" aria-hidden="true" />
    <div
      v-for="(tree, n) in near ? trees : []"
      :key="tree.id"
      role="row"
      class="row"
      :style="{ top: `${ROW_PX * n}px`, height: `${ROW_PX}px` }"
    >
      <div role="rowheader" class="name" :style="{ width: `${names}px` }">
        <CutawayDrawing
          v-if="names >= DRAWN_FROM_PX"
          :section="tree.section"
          size="small"
          :width="44"
          :height="32"
          :ground="12"
          aria-hidden="true"
        />
        <span class="who">
          <RouterLink :to="{ name: 'tree-water', params: { id: tree.id } }"
            ><strong>{{ tree.tag }}</strong></RouterLink
          >
          <span v-if="tree.word" class="narrow" :class="tree.word === 'may_die' ? 'warn' : 'kind'">{{
            t(`harm.${tree.word}`)
          }}</span>
          <span v-if="names >= KIND_FROM_PX" class="narrow kind full">{{ treeName(tree.common) }}</span>
        </span>
      </div>
      <button
        v-for="day in visible"
        :key="day"
        type="button"
        role="gridcell"
        class="cell"
        :class="{
          chosen: isChosen(tree, day),
          target: lifted?.tree.id === tree.id && lifted.to === day,
          grab: hasVisit(tree, day),
        }"
        :tabindex="isChosen(tree, day) ? 0 : -1"
        :aria-label="cellWords(tree, day)"
        :aria-selected="isChosen(tree, day)"
        :data-cell="`${tree.id}/${day}`"
        :style="{ left: `${cellX(frame, day - first)}px`, width: `${cellWidth(frame)}px` }"
        @click="click(tree, day)"
        @keydown="key($event, tree, day)"
        @pointerdown="down($event, tree, day)"
      />
    </div>
  </div>
</template>

<style scoped>
.body {
  position: relative;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.row {
  position: absolute;
  left: 0;
  right: 0;
}
.name {
  position: absolute;
  inset: 0 auto 0 0;
  display: flex;
  align-items: center;
  gap: var(--space-3);
  padding-right: var(--space-2);
  overflow: hidden;
}
.who {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 var(--space-2);
  min-width: 0;
  line-height: 1.2;
}
.who a {
  color: var(--ink);
  text-decoration: none;
}
.who a:hover {
  text-decoration: underline;
}
.full {
  flex-basis: 100%;
}
.kind {
  color: var(--ink-2);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.cell {
  scroll-margin: 120px 0 220px;
  position: absolute;
  top: 0;
  bottom: 0;
  border: 0;
  padding: 0;
  background: transparent;
  cursor: pointer;
}
.cell.grab {
  cursor: grab;
}
.cell:hover {
  box-shadow: inset 0 0 0 1px var(--edge);
}
.cell.chosen,
.cell:focus-visible {
  outline: 3px solid var(--ink);
  outline-offset: -3px;
}
.cell.target {
  outline: 3px solid var(--water);
  outline-offset: -3px;
}
</style>
