<script setup lang="ts">
import 'leaflet/dist/leaflet.css'
import { useEventListener } from '@vueuse/core'
import L from 'leaflet'
import type { Feature, GeoJsonObject, Geometry } from 'geojson'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { Dot, Schemas } from '../api/client'
import { count } from '../frame/words'
import { treeMark } from './mark'
import { withoutStrays } from './middle'

const props = defineProps<{
  land: Schemas['Map']
  dots: Dot[]
  pick?: boolean
  zoom?: boolean
  at?: { lat: number; lon: number }
  /** Where one is oneself, and within how many metres. */
  me?: { lat: number; lon: number; within: number }
  /** A way past numbered stops; what has no label is its start and end. */
  route?: { lat: number; lon: number; label: string }[]
}>()
const emit = defineEmits<{ pick: [{ lat: number; lon: number }] }>()
const router = useRouter()
const box = ref<HTMLElement>()
const middle = computed(() => withoutStrays(props.dots))
const strays = computed(() => props.dots.length - middle.value.length)
let map: L.Map | undefined
let trees: L.LayerGroup | undefined
let whole = L.latLngBounds([])
let fitted = whole // what was last brought into view
let mark: L.CircleMarker | undefined

const color = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--pt-${name}`).trim()

/** How lines and areas of the terrain are drawn, by what they are. */
function drawn(f: Feature<Geometry, { kind?: string; elevation_m?: number }> | undefined): L.PathOptions {
  const p = f?.properties
  switch (p?.kind) {
    case 'contour':
      return { color: color('bark'), weight: (p.elevation_m ?? 0) % 50 === 0 ? 1.5 : 0.6, opacity: 0.55, fill: false }
    case 'stream':
      return { color: '#3d7ea6', weight: 3, fill: false }
    case 'track':
      return { color: color('soft'), weight: 2, dashArray: '6 5', fill: false }
    case 'path':
      return { color: color('soft'), weight: 1, dashArray: '3 4', fill: false }
    case 'building':
      return { color: color('ink'), weight: 1, fillColor: color('ink'), fillOpacity: 0.6 }
  }
  return { color: color('soft'), weight: 1 }
}

/** Fords and gates: a small mark with its name. */
function place(f: Feature<Geometry, { kind?: string; name?: string }>, at: L.LatLng): L.Layer {
  const { kind, name } = f.properties
  const fill = kind === 'ford' || kind === 'bridge' ? '#3d7ea6' : color('ink')
  const mark = L.circleMarker(at, { radius: 4, color: color('snow'), weight: 1, fillColor: fill, fillOpacity: 1, interactive: false })
  return kind === 'gate' && name ? mark.bindTooltip(text(name), { permanent: true, direction: 'top', className: 'place-name' }) : mark
}

onMounted(() => {
  if (!box.value) return
  map = L.map(box.value, { preferCanvas: true, attributionControl: false, zoomSnap: 0.25, maxZoom: 22 })
  map.setView([43.56, -90.64], 13) // until it is known what there is: names of places cannot be laid out without
  L.control.scale({ imperial: true }).addTo(map)
  whole = L.latLngBounds([])
  const bounds = whole
  fitted = whole
  const add = (body: unknown, style: L.StyleFunction) => {
    if (!body) return undefined
    const layer = L.geoJSON(body as GeoJsonObject, { style, interactive: false, pointToLayer: place }).addTo(map!)
    bounds.extend(layer.getBounds())
    return layer
  }
  for (const t of props.land.tracts ?? []) {
    add(t.terrain, (f) => drawn(f))
    add(t.boundary, () => ({ color: color('ink'), weight: 2, fill: false, dashArray: '2 6' }))
  }
  for (const s of props.land.stands ?? []) {
    const layer = add(s.boundary, () => ({ color: color('bark'), weight: 2, fillColor: color('straw'), fillOpacity: 0.25 }))
    layer?.bindTooltip(text(s.stand), { permanent: true, direction: 'center', className: 'stand-name' })
    layer?.openTooltip()
  }
  for (const p of props.land.points ?? []) {
    const at: L.LatLngTuple = [p.lat, p.lon]
    const spot = L.circleMarker(at, { radius: 7, color: color('spruce'), weight: 2, fill: false, dashArray: '2 3' })
    spot.bindTooltip(text(`Sample point ${p.name}, ${p.stand}: ${p.stems} stems`)).addTo(map)
  }
  for (const d of middle.value) bounds.extend([d.lat, d.lon])
  if (props.at) bounds.extend([props.at.lat, props.at.lon])
  map.invalidateSize()
  if (bounds.isValid()) map.fitBounds(bounds, { padding: [4, 4] })
  trees = L.layerGroup().addTo(map)
  map.on('click', (e: L.LeafletMouseEvent) => {
    if (props.pick) emit('pick', { lat: e.latlng.lat, lon: e.latlng.lng })
  })
  setTimeout(draw) // the land is seen first
  setTimeout(drawSelf)
  setTimeout(drawRoute)
})
onBeforeUnmount(() => {
  map?.remove()
  map = undefined
})

/** The way past its stops; it comes near, as what lies beside it does not matter then. */
let way: L.LayerGroup | undefined
function drawRoute() {
  way?.remove()
  const stops = props.route
  if (!map || !stops?.length) return
  const at = stops.map((s): L.LatLngTuple => [s.lat, s.lon])
  way = L.layerGroup([L.polyline(at, { color: color('spruce'), weight: 2, dashArray: '6 5', interactive: false })]).addTo(map)
  for (const s of stops) {
    const box = document.createElement('span')
    box.textContent = s.label
    const icon = L.divIcon({ html: box, className: s.label ? 'stop' : 'stop end', iconSize: [22, 22] })
    L.marker([s.lat, s.lon], { icon, interactive: false, keyboard: false }).addTo(way)
  }
  fitted = L.latLngBounds(at)
  map.fitBounds(fitted, { padding: [24, 24], animate: false })
}
watch(() => props.route, drawRoute)

/** On paper all of it, as wide as a page is. */
const paper = 660 // px
function resize(width: string) {
  if (!box.value || !map) return
  box.value.style.width = width
  map.invalidateSize({ animate: false })
  if (fitted.isValid()) map.fitBounds(fitted, { animate: false, padding: [4, 4] })
}
useEventListener(window, 'beforeprint', () => resize(`${paper}px`))
useEventListener(window, 'afterprint', () => resize(''))
watch(() => [props.dots, props.at], draw)

/** Oneself: a point, and how far off it may be. */
let self: L.LayerGroup | undefined
function drawSelf() {
  const now = props.me
  const first = !self
  self?.remove()
  if (!map || !now) return
  const blue = '#1f6fb2'
  self = L.layerGroup([
    L.circle([now.lat, now.lon], { radius: now.within, color: blue, weight: 1, fillOpacity: 0.1, interactive: false }),
    L.circleMarker([now.lat, now.lon], { radius: 8, color: '#fff', weight: 2, fillColor: blue, fillOpacity: 1, interactive: false }),
  ]).addTo(map)
  if (first) map.panTo([now.lat, now.lon])
}
watch(() => props.me, drawSelf)
/** What was searched for comes near; without a search all of it. */
watch(
  () => props.dots,
  (dots) => {
    const bounds = props.zoom && dots.length ? L.latLngBounds(middle.value.map((d) => [d.lat, d.lon])) : whole
    fitted = bounds
    if (bounds.isValid()) map?.fitBounds(bounds, { padding: [24, 24], maxZoom: 18 })
  },
)

/** What is far from all others comes into view when asked for. */
function showStrays() {
  map?.fitBounds(L.latLngBounds(props.dots.map((d) => [d.lat, d.lon])), { padding: [24, 24] })
}

/** By keyboard: n and p go from tree to tree, and Enter opens the one that is ringed. */
const held = ref(-1)
const said = computed(() => {
  const d = props.dots[held.value]
  return d ? `${d.tag}: ${d.words}. Enter opens it.` : ''
})
watch(
  () => props.dots,
  () => (held.value = -1),
)
const step: Record<string, 1 | -1> = { n: 1, p: -1 }
function key(e: KeyboardEvent) {
  const d = props.dots[held.value]
  if (e.key === 'Enter' && d && !props.pick) return void router.push({ name: 'tree', params: { id: d.id } })
  if (!step[e.key] || !props.dots.length) return
  held.value = (held.value + step[e.key] + props.dots.length) % props.dots.length
  const at = props.dots[held.value]
  map?.panTo([at.lat, at.lon])
  draw()
}

/** Puts the trees on the map, each with the sign of its status; larger the surer. */
function draw() {
  if (!map || !trees) return
  trees.clearLayers()
  const lines: Record<string, string> = {
    doubtful: color('sumac'),
    named: color('spruce'),
    ready: color('spruce'),
    probable: color('spruce'),
  }
  const [ink, snow] = [color('ink'), color('snow')]
  for (const d of props.dots) {
    const line = lines[d.status] ?? ink
    treeMark([d.lat, d.lon], d.status, { radius: 3 + 3 * d.posterior, color: line, weight: 1.5, fillColor: snow, fillOpacity: 1 })
      .bindTooltip(() => label(d), { direction: 'top' })
      .on('click', () => !props.pick && void router.push({ name: 'tree', params: { id: d.id } }))
      .addTo(trees)
  }
  mark?.remove()
  const here = props.at ?? props.dots[held.value]
  mark = here ? L.circleMarker([here.lat, here.lon], { radius: 11, color: color('sumac'), weight: 4, fill: false }).addTo(map) : undefined
}

/** A name as text: Leaflet takes a string for HTML. */
function text(name: string): HTMLElement {
  const out = document.createElement('span')
  out.textContent = name
  return out
}

function label(d: Dot): HTMLElement {
  const out = document.createElement('span')
  out.textContent = `${d.tag}: ${d.words}`
  return out
}
</script>

<template>
  <div class="around">
    <div
      ref="box"
      class="map"
      role="application"
      :aria-label="pick ? 'Map; a press says where the tree stands' : 'Map of trees: n takes the next, p the one before, Enter opens it'"
      @keydown="key"
    ></div>
    <p class="said small" role="status">{{ said }}</p>
    <p v-if="strays" class="hint small">
      {{ count(strays, 'tree is', 'trees are') }} far from the others and out of view.
      <button type="button" class="press" data-strays @click="showStrays">Show all</button>
    </p>
  </div>
</template>

<style scoped>
.said:empty {
  display: none;
}

.map {
  height: min(62vh, 46rem);
  min-height: 20rem;
  border: 1px solid var(--pt-line);
  border-radius: 10px;
  background: var(--pt-snow);
  z-index: 0;
}

.map :deep(.stand-name),
.map :deep(.place-name) {
  border: 0;
  padding: 0 0.25rem;
  background: color-mix(in srgb, var(--pt-snow) 70%, transparent);
  box-shadow: none;
  color: var(--pt-ink);
  font: 600 0.875rem var(--pt-body);
  text-shadow:
    0 0 3px var(--pt-snow),
    0 0 3px var(--pt-snow),
    0 0 3px var(--pt-snow);
}

.map :deep(.stop) {
  display: grid;
  place-items: center;
  border: 2px solid var(--pt-spruce);
  border-radius: 50%;
  background: var(--pt-snow);
  color: var(--pt-ink);
  font: 600 0.75rem var(--pt-body);
}

.map :deep(.stop.end) {
  border-radius: 4px;
  background: var(--pt-spruce);
}

.map :deep(.leaflet-tooltip) {
  font: 0.875rem var(--pt-body);
}

.map :deep(.leaflet-control-scale-line) {
  border-color: var(--pt-soft);
  background: color-mix(in srgb, var(--pt-snow) 70%, transparent);
  color: var(--pt-ink);
  text-shadow: none;
}

.map :deep(.leaflet-bar a) {
  width: 48px;
  height: 48px;
  font: 400 1.5rem/48px var(--pt-body);
  color: var(--pt-ink);
  background: var(--pt-snow);
}
</style>
