/** A tree as its form holds it, from a stored tree and back to what the API takes. */
import type { Schema } from '@/api/client'
import { sent } from './numbers'
import { TREE_FIELDS, type TreeFieldName } from './treeFields'

export type Tree = Schema['TreeIn']

const usual = (name: TreeFieldName) => TREE_FIELDS[name].usual

/** What a new tree's form begins with. */
export function blankTree() {
  return {
    site_id: '',
    tag: '',
    place: '',
    side: '',
    note_for_crew: '',
    stop: '',
    line: '',
    latitude_deg: '' as number | '',
    longitude_deg: '' as number | '',
    row_place: usual('row_place') as number,
    version: null as number | null,
    count: 1 as number | '',
    spacing_m: null as number | null,
    bearing_deg: 90,
    plant_id: '',
    stock_size_id: '',
    kind: usual('kind') as Tree['kind'],
    caliper_m: usual('caliper_m') as number | null,
    ball_diameter_m: usual('ball_diameter_m') as number | null,
    ball_height_m: usual('ball_height_m') as number | null,
    ball_volume_l: usual('ball_volume_l') as number | null,
    crown_diameter_m: usual('crown_diameter_m') as number | null,
    planted_on: '',
    feel_ball: '',
    feel_ring: '',
    bud_break_on: '',
    microclimate: usual('microclimate') as number,
    surround: usual('surround') as Tree['surround'],
    method: usual('method') as Tree['method'],
    basin_diameter_m: usual('basin_diameter_m') as number | null,
    basin_depth_m: usual('basin_depth_m') as number | null,
    emitter_count: usual('emitter_count') as number,
    emitter_flow_l_per_h: usual('emitter_flow_l_per_h') as number | null,
    bag_capacity_l: usual('bag_capacity_l') as number | null,
    soaker_across_m: usual('soaker_across_m') as number | null,
    soaker_flow_l_per_h_m: usual('soaker_flow_l_per_h_m') as number | null,
    sprinkler_across_m: usual('sprinkler_across_m') as number | null,
    sprinkler_flow_l_per_h: usual('sprinkler_flow_l_per_h') as number | null,
    reservoir_l: usual('reservoir_l') as number | null,
    mode: '',
    worth: usual('worth') as number,
    mulch_material: '',
    mulch_depth_m: usual('mulch_depth_m') as number | null,
    mulch_outer_radius_m: usual('mulch_outer_radius_m') as number | null,
    mulch_measured_on: '',
    edging_m: usual('edging_m') as number | null,
    way_since: 'today' as 'today' | 'always',
  }
}

export type TreeForm = ReturnType<typeof blankTree>

/** Measures that only one way of pouring has; where a tree has another, the form offers its usual ones. */
const OF_METHOD = [
  'emitter_count',
  'emitter_flow_l_per_h',
  'soaker_across_m',
  'soaker_flow_l_per_h_m',
  'sprinkler_across_m',
  'sprinkler_flow_l_per_h',
  'reservoir_l',
] as const
const isMeasure = (name: string) => /_(m|l|l_per_h)$/.test(name)

export function treeToForm(row: Schema['TreeOut']): TreeForm {
  const form = blankTree()
  const offered = blankTree()
  for (const key of Object.keys(form) as (keyof TreeForm)[]) {
    if (!(key in row)) continue
    const value = row[key as keyof typeof row]
    Object.assign(form, { [key]: value ?? (isMeasure(key) ? null : '') })
  }
  for (const key of OF_METHOD) if (!form[key]) Object.assign(form, { [key]: offered[key] })
  return Object.assign(form, { plant_id: row.plant.id, stop: row.stop ?? '', line: row.line ?? '' })
}

/** asksFeel: a tree that stands already may tell how it feels today. */
export function formToTree(form: TreeForm, asksFeel: boolean, today: string | null): Tree {
  const mulched = Boolean(form.mulch_material)
  const feel = asksFeel && form.feel_ball && form.feel_ring ? { ball: form.feel_ball, ring: form.feel_ring } : null
  const only = <T>(method: Tree['method'], value: T) => (form.method === method ? value : null)
  return {
    site_id: form.site_id,
    tag: form.tag,
    place: form.place,
    side: form.side,
    note_for_crew: form.note_for_crew,
    stop: form.stop || null,
    line: form.line || null,
    latitude_deg: sent(form.latitude_deg),
    longitude_deg: sent(form.longitude_deg),
    version: form.version,
    row_place: Number(form.row_place) || 0,
    plant_id: form.plant_id,
    stock_size_id: form.stock_size_id || null,
    kind: form.kind,
    caliper_m: form.caliper_m!,
    ball_diameter_m: form.ball_diameter_m!,
    ball_height_m: form.ball_height_m!,
    ball_volume_l: form.ball_volume_l,
    crown_diameter_m: form.crown_diameter_m,
    planted_on: form.planted_on,
    feel: feel as Tree['feel'],
    bud_break_on: form.kind === 'bare_root' && form.bud_break_on ? form.bud_break_on : null,
    microclimate: Number(form.microclimate),
    surround: form.surround,
    method: form.method,
    basin_diameter_m: form.basin_diameter_m,
    basin_depth_m: form.basin_depth_m,
    emitter_count: only('emitters', Number(form.emitter_count)) ?? 0,
    emitter_flow_l_per_h: only('emitters', form.emitter_flow_l_per_h) ?? 0,
    bag_capacity_l: form.bag_capacity_l ?? (usual('bag_capacity_l') as number),
    soaker_across_m: only('soaker', form.soaker_across_m),
    soaker_flow_l_per_h_m: only('soaker', form.soaker_flow_l_per_h_m),
    sprinkler_across_m: only('sprinkler', form.sprinkler_across_m),
    sprinkler_flow_l_per_h: only('sprinkler', form.sprinkler_flow_l_per_h),
    reservoir_l: only('wicked', form.reservoir_l),
    mode: (form.mode || null) as Tree['mode'],
    worth: Number(form.worth),
    mulch_material: (form.mulch_material || null) as Tree['mulch_material'],
    mulch_depth_m: mulched ? (form.mulch_depth_m ?? 0) : 0,
    mulch_outer_radius_m: mulched ? form.mulch_outer_radius_m : null,
    mulch_measured_on: mulched ? form.mulch_measured_on || today : null,
    edging_m: form.edging_m ?? 0,
    way_since: form.way_since,
  }
}

/** What says how a tree is watered: it holds from a day on. */
const WAY = (Object.keys(TREE_FIELDS) as TreeFieldName[]).filter((name) => TREE_FIELDS[name].rests === 'way')

/** Whether the form waters a stored tree otherwise than it is watered now. */
export function watersOtherwise(form: TreeForm, stored: Schema['TreeOut']): boolean {
  const sent = formToTree(form, false, null)
  return WAY.some((name) => sent[name as keyof Tree] !== stored[name as keyof Schema['TreeOut']])
}
