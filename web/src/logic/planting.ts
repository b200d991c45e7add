/** A stored planting as the form and the wire take it. */
import type { Schema } from '@/api/client'

type Out = Schema['PlantingOut']

const WAY = [
  'method',
  'emitter_count',
  'emitter_flow_l_per_h',
  'bag_capacity_l',
  'soaker_across_m',
  'soaker_flow_l_per_h_m',
  'sprinkler_across_m',
  'sprinkler_flow_l_per_h',
  'reservoir_l',
] as const

/** How trees are watered, of whatever has that. */
export function wayOf<T extends Pick<Schema['TreeIn'], (typeof WAY)[number]>>(from: T) {
  return Object.fromEntries(WAY.map((name) => [name, from[name]])) as Pick<T, (typeof WAY)[number]>
}

export function plantingBody(p: Out): Schema['PlantingIn'] {
  return {
    site_id: p.site_id,
    stop: p.stop,
    planned_on: p.planned_on,
    plant_id: p.plant.id,
    stock_size_id: p.stock_size_id,
    kind: p.kind,
    caliper_m: p.caliper_m,
    ball_diameter_m: p.ball_diameter_m,
    ball_height_m: p.ball_height_m,
    ball_volume_l: p.ball_volume_l,
    flare_below_top_m: p.flare_below_top_m,
    count: p.count,
    tag: p.tag,
    place: p.place,
    microclimate: p.microclimate,
    surround: p.surround,
    ...wayOf(p),
    line: p.line,
    note: p.note,
    obstacles: p.obstacles,
    version: p.version,
  }
}
