/** Closed lists that forms choose from; those of a tree are the core's own. */
import type { Schema } from '@/api/client'
import { TREE_FIELDS } from './treeFields'

export const TEXTURES: Schema['SiteIn']['texture'][] = [
  'sand',
  'loamy_sand',
  'sandy_loam',
  'loam',
  'silt_loam',
  'silt',
  'sandy_clay_loam',
  'clay_loam',
  'silty_clay_loam',
  'sandy_clay',
  'silty_clay',
  'clay',
]

/** Fields of a site that are typed, to send it back with one of them changed. */
export const SITE_FIELDS = [
  'name',
  'timezone',
  'latitude_deg',
  'longitude_deg',
  'elevation_m',
  'climate',
  'texture',
  'root_depth_max_m',
  'hose_flow_l_per_h',
  'pour_step_l',
  'tank_l',
  'crew_hours',
  'working_days',
  'water_price_per_m3',
  'hour_price',
  'mode',
  'water_source',
  'water_ec_ds_m',
  'water_sar',
  'traffic',
  'tank_flow_l_per_h',
  'station_id',
  'version',
] as const satisfies readonly (keyof Schema['SiteIn'])[]

export const KINDS = TREE_FIELDS.kind.choices as Schema['TreeIn']['kind'][]
export const METHODS = TREE_FIELDS.method.choices as NonNullable<Schema['TreeIn']['method']>[]
/** Ways that run from a valve, which several trees may share. */
export const VALVE_METHODS = ['emitters', 'soaker', 'sprinkler'] as const
export const SURROUNDS = TREE_FIELDS.surround.choices as NonNullable<Schema['TreeIn']['surround']>[]
/** Places by what they look like, with the figure the plan takes for each. */
export const MICROCLIMATES = TREE_FIELDS.microclimate.named as [string, number][]
/** What a tree is worth in a drought, with the figure the plan under limits takes for each. */
export const WORTHS = TREE_FIELDS.worth.named as [string, number][]
export const MATERIALS = TREE_FIELDS.mulch_material.choices as NonNullable<Schema['TreeIn']['mulch_material']>[]
export const MODES = TREE_FIELDS.mode.choices as NonNullable<Schema['TreeIn']['mode']>[]
export const WATER_SOURCES = ['potable', 'well', 'reclaimed', 'pond'] as const

export const SKIPS = ['no_access', 'soil_wet', 'no_water', 'no_time', 'tree_gone', 'other'] as const

export const SEEN = [
  'wilting',
  'scorch',
  'pest',
  'damage',
  'leak',
  'wet_ground',
  'dry_ball',
  'mulch_off',
  'support',
  'bud_break',
  'other',
] as const

/** Measures of each way of pouring, in the order in which they are asked: field, dimension, words. */
export const METHOD_MEASURES = {
  emitters: [['emitter_flow_l_per_h', 'flow', 'form.emitterFlow']],
  soaker: [
    ['soaker_across_m', 'small', 'form.soakerAcross'],
    ['soaker_flow_l_per_h_m', 'lineflow', 'form.soakerFlow'],
  ],
  sprinkler: [
    ['sprinkler_across_m', 'large', 'form.sprinklerAcross'],
    ['sprinkler_flow_l_per_h', 'flow', 'form.sprinklerFlow'],
  ],
  wicked: [['reservoir_l', 'volume', 'form.reservoir']],
  bag: [['bag_capacity_l', 'volume', 'form.bag']],
} as const
