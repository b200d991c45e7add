/**
 * The planting hole in the cutaway, from its real measures: one scale both ways, nothing stretched.
 * Pixels from metres; no rule of the job here.
 */
import type { Schema } from '@/api/client'
import { branches } from './cutaway'

export interface HoleStock {
  kind: string
  caliper_m: number
  ball_diameter_m: number
  ball_height_m: number
  flare_below_top_m: number
}

export interface HoleDrawing {
  scale: number
  cx: number
  hole: string
  ball: string
  over: string | null
  trunk: string
  roots: string[]
  ridges: string[]
  mound: string | null
  flareY: number
  floorY: number
  top: number
  base: number
  graftY: number | null
  posts: string[]
  edging: string[]
  mulch: string[]
  crown: string[]
}

const f = (n: number) => n.toFixed(1)

export function holeDrawing(
  figures: Schema['PlantingFiguresOut'],
  stock: HoleStock,
  width: number,
  below: number,
  ground: number,
): HoleDrawing {
  const { hole, choice } = figures
  const widest = Math.max(hole.top_diameter_m, choice.basin_diameter_m, choice.edging_m) + 0.2
  const scale = Math.min(width / widest, below / (hole.depth_m + 0.06), 420)
  const cx = width / 2
  const px = (m: number) => m * scale
  const top = px(hole.top_diameter_m) / 2
  const base = px(hole.base_diameter_m) / 2
  const floorY = ground + px(hole.depth_m)
  const flareY = ground - px(choice.raise_m)
  const half = px(stock.ball_diameter_m) / 2
  const bare = stock.kind === 'bare_root'
  const taper = stock.kind === 'balled' ? 0.62 : stock.kind === 'container' ? 0.86 : 1
  const q = Math.min(10, (floorY - flareY) / 4)
  const ball =
    `M${f(cx - half)} ${f(flareY)}L${f(cx - half * taper)} ${f(floorY - q)}Q${f(cx - half * taper)} ${f(floorY)} ` +
    `${f(cx - half * taper + q)} ${f(floorY)}H${f(cx + half * taper - q)}Q${f(cx + half * taper)} ${f(floorY)} ` +
    `${f(cx + half * taper)} ${f(floorY - q)}L${f(cx + half)} ${f(flareY)}Z`
  const trunk = Math.max(4, px(stock.caliper_m)) / 2
  const above = Math.min(ground - 26, 150)
  const topY = ground - above
  const over =
    stock.flare_below_top_m > 0
      ? `M${f(cx - half)} ${f(flareY)}V${f(flareY - px(stock.flare_below_top_m))}H${f(cx + half)}V${f(flareY)}`
      : null
  const roots = [-0.86, -0.45, 0.5, 0.9].map(
    (reach) =>
      `M${f(cx)} ${f(flareY)}Q${f(cx + half * reach * 0.55)} ${f(flareY + 5)} ${f(cx + half * reach * (bare ? 1 : 0.82))} ${f(flareY + (floorY - flareY) * (0.35 + Math.abs(reach) * 0.3))}`,
  )
  const ridgeX = px(choice.basin_diameter_m) / 2
  const ridgeH = px(choice.ridge_m)
  const ridges = [-1, 1].map((side) => {
    const x = cx + side * ridgeX
    return `M${f(x - ridgeH * 1.2)} ${f(ground)}Q${f(x)} ${f(ground - ridgeH * 2)} ${f(x + ridgeH * 1.2)} ${f(ground)}Z`
  })
  const mound =
    choice.raise_m > 0
      ? `M${f(cx - half)} ${f(flareY)}Q${f(cx - half - (ground - flareY) * 2)} ${f(flareY + 1)} ${f(cx - half - (ground - flareY) * 3.2)} ${f(ground)}` +
        `H${f(cx + half + (ground - flareY) * 3.2)}Q${f(cx + half + (ground - flareY) * 2)} ${f(flareY + 1)} ${f(cx + half)} ${f(flareY)}Z`
      : null
  const posts =
    choice.support === 'none'
      ? []
      : (choice.support === 'two_posts' ? [-1, 1] : [-1]).map((side) => {
          const x = cx + side * (half + 12)
          return `M${f(x)} ${f(Math.max(8, ground - 92))}V${f(Math.min(floorY + 24, ground + below))}`
        })
  const edge = px(choice.edging_m) / 2
  const edging = edge > 0 ? [-1, 1].map((side) => `M${f(cx + side * edge)} ${f(ground - 4)}v14`) : []
  const depth = px(choice.mulch_depth_m)
  const gap = trunk + px(0.08)
  const mulchEdge: number = Math.min(width / 2 - 6, Math.max(ridgeX, half + px(0.15)))
  const mulch =
    depth > 0
      ? [-1, 1].map((side) => {
          const at = (m: number) => f(cx + side * m)
          return `M${at(gap)} ${f(flareY)}L${at(gap + px(0.15))} ${f(flareY - depth)}L${at(mulchEdge)} ${f(ground - depth)}V${f(ground)}`
        })
      : []
  return {
    scale,
    cx,
    hole: `M${f(cx - top)} ${f(ground)}L${f(cx - base)} ${f(floorY)}H${f(cx + base)}L${f(cx + top)} ${f(ground)}Z`,
    ball,
    over,
    trunk: `M${f(cx - trunk * 2.4)} ${f(flareY)}Q${f(cx - trunk)} ${f(flareY - 4)} ${f(cx - trunk)} ${f(flareY - 14)}V${f(topY)}H${f(cx + trunk)}V${f(flareY - 14)}Q${f(cx + trunk)} ${f(flareY - 4)} ${f(cx + trunk * 2.4)} ${f(flareY)}Z`,
    roots,
    ridges,
    mound,
    flareY,
    floorY,
    top,
    base,
    graftY: choice.graft_m == null ? null : flareY - px(choice.graft_m),
    crown: above > 110 ? branches(cx, ground, above, Math.min(90, half * 0.9), topY - 18) : [],
    posts,
    edging,
    mulch,
  }
}
