/** A stored planting as the form and the wire take it. */
import type { Schema } from '@/api/client'

type Out = Schema['PlantingOut']

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
    method: p.method as Schema['PlantingIn']['method'],
    note: p.note,
    obstacles: p.obstacles,
    version: p.version,
  }
}
