/** Closed lists that forms choose from, checked against the API's own types. */
import type { Schema } from '@/api/client'

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
  'tank_flow_l_per_h',
  'station_id',
  'version',
] as const satisfies readonly (keyof Schema['SiteIn'])[]

export const KINDS: Schema['TreeIn']['kind'][] = ['balled', 'container', 'box', 'fabric_bag', 'bare_root']
export const METHODS: NonNullable<Schema['TreeIn']['method']>[] = [
  'hose',
  'bucket',
  'tank',
  'bag',
  'emitters',
  'soaker',
  'sprinkler',
  'wicked',
]
/** Ways that run from a valve, which several trees may share. */
export const VALVE_METHODS = ['emitters', 'soaker', 'sprinkler'] as const
export const SURROUNDS: NonNullable<Schema['TreeIn']['surround']>[] = [
  'bare',
  'turf',
  'paved',
  'gravel',
  'plastic',
  'plastic_holed',
]
/** Places by what they look like, with the figure the plan takes for each. */
export const MICROCLIMATES = [
  ['deep_shade', 0.5],
  ['shade', 0.7],
  ['open', 1],
  ['hot_or_windy', 1.2],
  ['hot_wall', 1.4],
] as const
export const MATERIALS: NonNullable<Schema['TreeIn']['mulch_material']>[] = [
  'wood_chips',
  'bark',
  'straw',
  'leaves',
  'pine_needles',
  'seaweed',
  'compost',
  'gravel',
]
export const MODES = ['grow', 'hold', 'survive'] as const
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
