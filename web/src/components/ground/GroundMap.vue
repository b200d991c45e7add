<script setup lang="ts">
/** A site from above, to scale, on a map without tiles: trees as cutaways where they stand, lines, what lies beside. */
import L from 'leaflet'
import 'leaflet/dist/leaflet.css'
import { computed, getCurrentInstance, h, onBeforeUnmount, onMounted, ref, render, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import CutawayDrawing from '@/components/cutaway/CutawayDrawing.vue'
import { detail, everything, frameOf, full, groups, inTurn, middle, spotOf, type Frame, type Ground, type Spot, type Tree } from '@/logic/ground' // prettier-ignore
import { isUs } from '@/units'

const props = defineProps<{
  ground: Ground
  picked: ReadonlySet<string>
  /** Spots that were shown by a tap, as pins. */
  pins: readonly Spot[]
  /** A tap shows a spot, or the cross in the middle does; trees are not picked then. */
  showing: boolean
  /** What the pins are of: a way or an edge is drawn through them. */
  sketch: 'line' | 'area' | null
  round: boolean
  /** What to look at; null = all. */
  look: Frame | null
}>()
const emit = defineEmits<{ tap: [spot: Spot]; tree: [id: string] }>()
const { t } = useI18n()
const frame = ref<HTMLElement>()
const map = shallowRef<L.Map>()
const own = getCurrentInstance()!.appContext
const layers = L.layerGroup()
const below = L.layerGroup()
let scale: L.Control.Scale | null = null
let mounted: HTMLElement[] = []
const CUT = { width: 42, height: 36, ground: 15 }
const TAP = 44
/** Whose layer lies below all that is drawn. */
const UNDER = 'under'
/** Names that are tapped lie above what else stands there. */
const ON_TOP = 1000
/** An arrow key moves the map so far. */
const KEY_PX = 16
const at = ([x, y]: Spot) => L.latLng(y, x)
const found = computed(() => groups(props.ground))
/** Trees are drawn so far beyond the view, as a share of it. */
const BESIDE_VIEW = 0.3
const bounds = ([west, south, east, north]: Frame) => L.latLngBounds([south, west], [north, east])

function show() {
  const size = map.value?.getSize()
  if (size?.x && size.y)
    map.value!.fitBounds(bounds(props.look ?? frameOf(everything(props.ground), 4)), { padding: [44, 44] })
}
function icon(tree: Tree, kind: 'cutaway' | 'dot', px: number): L.DivIcon {
  const box = document.createElement('div')
  box.className = `tree ${kind}`
  box.classList.toggle('picked', props.picked.has(tree.id))
  box.classList.toggle('guessed', tree.basis !== 'own')
  if (kind === 'cutaway' && tree.section) {
    const node = h(CutawayDrawing, { section: tree.section, size: 'small', ...CUT })
    node.appContext = own
    render(node, box)
    mounted.push(box)
  } else {
    const share = full(tree)
    const dot = document.createElement('span')
    dot.className = 'fill'
    dot.style.setProperty('--across', `${px}px`)
    dot.style.setProperty('--full', share === null ? '0%' : `${Math.round(100 * share)}%`)
    box.append(dot)
  }
  if (kind === 'cutaway') {
    const name = document.createElement('span')
    name.className = 'tag'
    name.textContent = tree.tag
    box.append(name)
  }
  if (props.round && tree.turn !== null && kind === 'cutaway') {
    const turn = document.createElement('span')
    turn.className = 'turn'
    turn.textContent = String(tree.turn)
    box.append(turn)
  }
  const size: L.PointTuple = kind === 'cutaway' ? [CUT.width, CUT.height] : [TAP / 2, TAP / 2]
  return L.divIcon({
    html: box,
    className: 'of-tree',
    iconSize: size,
    iconAnchor: kind === 'cutaway' ? [CUT.width / 2, CUT.ground] : [TAP / 4, TAP / 4],
  })
}
function tree(one: Tree, kind: 'cutaway' | 'dot', px: number) {
  L.marker(at(spotOf(one)), { icon: icon(one, kind, px), keyboard: false, title: `${one.tag}, ${one.place}` })
    .on('click', () => (props.showing ? emit('tap', spotOf(one)) : emit('tree', one.id)))
    .addTo(layers)
}
/** Where names of stops stand on the screen already: another one goes beside them, as near as there is room. */
let taken: { x: number; y: number; width: number }[] = []
/** Where the buttons of its scale stand: no name lies under them. */
const BUTTONS = [20, 54, 88].map((y) => ({ x: 32, y, width: 56 }))
const LABEL_HIGH = 34
const LETTER = 8.5
const SHIFTS = [0, 1, -1, 2, -2, 3, -3, 4, -4].map((n) => n * LABEL_HIGH)
function free(words: string, spot: Spot): number {
  const { x, y } = map.value!.latLngToContainerPoint(at(spot))
  const width = words.length * LETTER + 20
  const high = map.value!.getSize().y
  const hits = (down: number) =>
    y + down < LABEL_HIGH / 2 ||
    y + down > high - LABEL_HIGH ||
    taken.some((one) => Math.abs(one.y - y - down) < LABEL_HIGH && Math.abs(one.x - x) < (one.width + width) / 2)
  const down = SHIFTS.find((one) => !hits(one)) ?? 0
  taken.push({ x: x + inward(words, spot), y: y + down, width })
  return down
}
/** A stop's name is never cut off at an edge of the map. */
function inward(words: string, spot: Spot): number {
  const { x } = map.value!.latLngToContainerPoint(at(spot))
  const half = (words.length * LETTER + 20) / 2
  return Math.max(0, half - x) + Math.min(0, map.value!.getSize().x - half - x)
}
function label(words: string, spot: Spot, kind: string, then?: () => void) {
  const box = document.createElement('span')
  box.textContent = words
  if (then) {
    box.style.left = `${inward(words, spot)}px`
    box.style.top = `${free(words, spot)}px`
  }
  const marker = L.marker(at(spot), {
    icon: L.divIcon({ html: box, className: `label ${kind}`, iconSize: [0, 0] }),
    zIndexOffset: then ? ON_TOP : 0,
    keyboard: false,
    interactive: Boolean(then),
  }).addTo(layers)
  if (then) marker.on('click', then)
}
const AREAS = new Set(['paving', 'building', 'bed', 'water', 'pit'])
function ways(seen: ReadonlySet<string>) {
  for (const one of props.ground.trees.filter((tree) => seen.has(tree.id))) {
    if (one.mulch_radius_m)
      L.circle(at(spotOf(one)), { radius: one.mulch_radius_m, className: 'mulch', interactive: false }).addTo(layers)
    for (const beside of one.beside)
      L.polygon(beside.outline.map((p) => at(p as Spot)), { className: `beside ${beside.kind}`, interactive: false }).addTo(layers) // prettier-ignore
  }
  const on = new Set(props.ground.trees.filter((tree) => seen.has(tree.id)).map((tree) => tree.line))
  for (const line of props.ground.lines.filter((one) => on.has(one.name))) {
    L.polyline(
      line.way.map((p) => at(p as Spot)),
      { className: 'line', interactive: false },
    ).addTo(layers)
    const valve = L.divIcon({ html: '<i></i>', className: 'valve', iconSize: [22, 14], iconAnchor: [11, 7] })
    L.marker(at(line.valve as Spot), { icon: valve, keyboard: false, title: line.name, interactive: false }).addTo(
      layers,
    )
  }
  const turns = inTurn(props.ground)
  if (props.round && turns.length > 1)
    L.polyline(
      turns.map((one) => at(spotOf(one))),
      { className: 'round', interactive: false },
    ).addTo(layers)
}
/** Names of things stand on the plan once it is looked at this closely. */
const NAMED_PX_PER_M = 5
function things(per_m: number) {
  for (const one of props.ground.things) {
    const words = one.name || t(`ground.kind.${one.kind}`)
    for (const path of one.paths as Spot[][]) {
      const spots = path.map(at)
      const options = { className: `thing ${one.kind}`, interactive: false }
      if (one.shape === 'area') L.polygon(spots, options).addTo(layers)
      else if (one.shape === 'line') L.polyline(spots, options).addTo(layers)
      else {
        const mark = L.divIcon({ html: '<i></i>', className: `point ${one.kind}`, iconSize: [16, 16] })
        L.marker(spots[0]!, { icon: mark, keyboard: false, title: words, interactive: false }).addTo(layers)
      }
    }
    if (per_m < NAMED_PX_PER_M) continue
    const whole = one.paths.flat() as Spot[]
    const [west, south, east, north] = frameOf(whole)
    label(words, one.shape === 'point' ? whole[0]! : [(west + east) / 2, (south + north) / 2], AREAS.has(one.kind) ? 'inside' : 'beside-it') // prettier-ignore
  }
}
function draw() {
  if (!map.value) return
  mounted.forEach((box) => render(null, box))
  mounted = []
  layers.clearLayers()
  taken = [...BUTTONS]
  const per_m = 2 ** map.value.getZoom()
  const view = map.value.getBounds().pad(BESIDE_VIEW)
  const shown = found.value.map((group) => ({ group, kind: detail(group, per_m) }))
  ways(new Set(shown.flatMap(({ group, kind }) => (kind === 'name' ? [] : group.trees.map((one) => one.id)))))
  things(per_m)
  for (const { group, kind } of shown) {
    const words = group.stop || t('ground.noStop')
    const spots = group.trees.map(spotOf)
    if (kind === 'name') {
      const n = group.trees.length
      const today = group.trees.filter((one) => one.turn !== null).length
      const told = `${words}: ${t('trees.count', { n }, n)}${today ? `, ${t('ground.dueHere', { n: today })}` : ''}`
      const spot = L.divIcon({ html: '<i></i>', className: 'of-stop', iconSize: [10, 10] })
      L.marker(at(middle(group.trees)), { icon: spot, keyboard: false, interactive: false }).addTo(layers)
      label(told, middle(group.trees), 'stop', () => map.value!.fitBounds(bounds(frameOf(spots, 3))))
    } else {
      const px = Math.min(18, Math.max(8, 0.85 * group.apart_m * per_m))
      group.trees.filter((one) => view.contains(at(spotOf(one)))).forEach((one) => tree(one, kind, px))
      const [west, , , north] = frameOf(spots)
      label(words, [west, Math.max(...spots.map(([, y]) => y), north - 6)], `over ${kind}`)
    }
  }
  const pins = props.pins.map(at)
  if (props.sketch === 'line') L.polyline(pins, { className: 'sketch', interactive: false }).addTo(layers)
  if (props.sketch === 'area') L.polygon(pins, { className: 'sketch', interactive: false }).addTo(layers)
  props.pins.forEach((spot, n) => label(String(n + 1), spot, 'pin'))
}
function lay() {
  below.clearLayers()
  const picture = props.ground.picture
  if (!picture?.matrix || !picture.corners) return
  const [west, south, east, north] = frameOf(picture.corners as Spot[])
  const [a, b, c, d, e, f] = picture.matrix as [number, number, number, number, number, number]
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  svg.setAttribute('viewBox', `${west} ${-north} ${east - west} ${north - south}`)
  svg.setAttribute('preserveAspectRatio', 'none')
  const image = document.createElementNS('http://www.w3.org/2000/svg', 'image')
  image.setAttribute('href', `/api/sites/${props.ground.site_id}/ground/picture?of=${picture.name}`)
  image.setAttribute('width', String(picture.width_px))
  image.setAttribute('height', String(picture.height_px))
  image.setAttribute('preserveAspectRatio', 'none')
  image.setAttribute('transform', `matrix(${a} ${-b} ${c} ${-d} ${e} ${-f})`)
  svg.append(image)
  L.svgOverlay(svg, bounds([west, south, east, north]), { className: 'under', interactive: false, pane: UNDER }).addTo(
    below,
  )
}
function measure() {
  scale?.remove()
  scale = L.control.scale({ imperial: isUs.value, metric: !isUs.value, maxWidth: 140 }).addTo(map.value!)
}
function middleOf() {
  const { lng, lat } = map.value!.getCenter()
  emit('tap', [lng, lat])
}
/** Places are shown by keys, too: arrows move the map under its cross. */
watch(
  () => props.showing,
  (now) => now && frame.value?.focus({ preventScroll: true }),
)
let watcher: ResizeObserver | null = null
onMounted(() => {
  const made = L.map(frame.value!, {
    crs: L.CRS.Simple,
    attributionControl: false,
    zoomControl: false,
    zoomSnap: 0.25,
    minZoom: -6,
    maxZoom: 7,
    zoomAnimation: false,
    fadeAnimation: false,
    markerZoomAnimation: false,
    scrollWheelZoom: true,
    keyboardPanDelta: KEY_PX,
    trackResize: false, // the watcher below tells of it; the map's own timer outlives it
  })
  map.value = made
  L.control.zoom({ zoomInTitle: t('ground.closer'), zoomOutTitle: t('ground.farther') }).addTo(made)
  made.createPane(UNDER).style.zIndex = '300' // below the library's own, from 400 on
  below.addTo(made)
  layers.addTo(made)
  made.on('moveend', draw) // after a change of scale, too
  made.on('click', (e: L.LeafletMouseEvent) => props.showing && emit('tap', [e.latlng.lng, e.latlng.lat]))
  made.setView([0, 0], 0)
  measure()
  lay()
  show()
  draw()
  watcher = new ResizeObserver(() => {
    made.invalidateSize()
    show()
  })
  watcher.observe(frame.value!)
})
onBeforeUnmount(() => {
  watcher?.disconnect()
  mounted.forEach((box) => render(null, box))
  map.value?.off().remove()
  map.value = undefined
})
watch(() => [props.ground, props.picked, props.pins, props.round, props.sketch], draw)
watch(() => props.ground.picture, lay, { deep: true })
watch(() => props.look, show)
watch(isUs, measure)
</script>

<template>
  <div class="ground-map" :class="{ showing }">
    <div
      ref="frame"
      class="frame"
      role="region"
      :aria-label="t('ground.mapLabel', { site: ground.name })"
      @keydown.enter.self.prevent="showing && middleOf()"
    />
    <template v-if="showing">
      <svg class="cross" viewBox="-20 -20 40 40" aria-hidden="true"><path d="M-18 0H-4M4 0H18M0-18V-4M0 4V18" /></svg>
      <button type="button" class="button middle" @click="middleOf">{{ t('ground.middle') }}</button>
    </template>
    <svg class="north" viewBox="0 0 40 56" aria-hidden="true">
      <path d="M20 4L32 40L20 32L8 40Z" />
      <text x="20" y="54" text-anchor="middle">{{ t('ground.north') }}</text>
    </svg>
  </div>
</template>

<style src="./groundMap.css"></style>
