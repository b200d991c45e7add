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
  'other',
] as const
