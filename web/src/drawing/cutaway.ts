/**
 * The cutaway: a side section of a tree in its hole, from its real measures. One geometry for every size.
 * Width is scaled to the radius at which the tree is established, so that it fills its frame as it establishes.
 * Vertical and horizontal scale are the same: nothing is stretched.
 */
import type { Schema } from '@/api/client'

type Section = Schema['Section']

export interface Cutaway {
  scale: number
  centre: number
  ball: string
  ring: string
  established: string
  mulch: string[]
  basin: string[]
  trunk: string
  roots: string[]
  crown: { half: number; y: number; branches: string[] } | null
  ballFill: { y: number; height: number } | null
  ringFill: { y: number; height: number } | null
  farFill: { y: number; height: number } | null
  nearFrom: number
  nearHalf: number
  ballDepth: number
  ringDepth: number
  ringHalf: number
  ballHalf: number
  standingWater: boolean
}

/** Less of the ring than this beyond our water's reach is not drawn apart. */
const LEAST_FAR = 0.03

const f = (n: number) => n.toFixed(1)

function pail(cx: number, top: number, bottom: number, ground: number, depth: number, round: number): string {
  const q = Math.min(round, depth / 2, bottom)
  return (
    `M${f(cx - top)} ${f(ground)}L${f(cx - bottom)} ${f(ground + depth - q)}` +
    `Q${f(cx - bottom)} ${f(ground + depth)} ${f(cx - bottom + q)} ${f(ground + depth)}` +
    `H${f(cx + bottom - q)}Q${f(cx + bottom)} ${f(ground + depth)} ${f(cx + bottom)} ${f(ground + depth - q)}` +
    `L${f(cx + top)} ${f(ground)}Z`
  )
}

function bowl(cx: number, half: number, ground: number, depth: number): string {
  return (
    `M${f(cx - half)} ${f(ground)}C${f(cx - half)} ${f(ground + depth * 0.9)} ${f(cx - half * 0.75)} ${f(ground + depth)} ` +
    `${f(cx)} ${f(ground + depth)}C${f(cx + half * 0.75)} ${f(ground + depth)} ${f(cx + half)} ` +
    `${f(ground + depth * 0.9)} ${f(cx + half)} ${f(ground)}Z`
  )
}

function level(share: number, ground: number, depth: number) {
  const held = Math.max(0, Math.min(1, share))
  return { y: ground + depth * (1 - held), height: depth * held }
}

/** Four branches under a crown, each ending where its neighbours leave room: how wide, how far up, in pixels. */
export function branches(cx: number, ground: number, above: number, crownHalf: number, crownY: number): string[] {
  return [-0.9, -0.5, 0.55, 0.86].map((reach, n) => {
    const from = ground - above * [0.62, 0.8, 0.74, 0.56][n]!
    const end = crownY + [34, 10, 12, 38][n]!
    return `M${f(cx)} ${f(from)}C${f(cx + crownHalf * reach * 0.25)} ${f(from - 26)} ${f(cx + crownHalf * reach * 0.6)} ${f(end + 22)} ${f(cx + crownHalf * reach)} ${f(end)}`
  })
}

export function cutaway(s: Section, width: number, below: number, ground: number, above: number): Cutaway {
  const reach = Math.max(s.established_radius_m, s.ring_radius_m, s.mulch_outer_radius_m ?? 0) * 1.06
  const deep = Math.max(s.root_depth_m, s.ball_height_m) * 1.06
  const scale = Math.min(width / 2 / reach, below / deep)
  const cx = width / 2
  const px = (m: number) => m * scale
  const ballHalf = px(s.ball_radius_m)
  const ballDepth = px(s.ball_height_m)
  const ringHalf = px(s.ring_radius_m)
  const ringDepth = px(s.root_depth_m)
  const ball =
    s.kind === 'bare_root'
      ? bowl(cx, ballHalf, ground, ballDepth)
      : pail(cx, ballHalf, ballHalf * (s.kind === 'balled' ? 0.66 : 0.9), ground, ballDepth, ballHalf * 0.12)
  const established = px(s.established_radius_m)

  const mulch: string[] = []
  const basin: string[] = []
  for (const side of [-1, 1]) {
    if (s.mulch_outer_radius_m && s.mulch_depth_m > 0) {
      const bare = px(s.caliper_m / 2 + 0.08)
      const full = Math.min(bare + px(0.15), px(s.mulch_outer_radius_m))
      const end = px(s.mulch_outer_radius_m)
      const high = Math.max(1.5, px(s.mulch_depth_m))
      mulch.push(
        `M${f(cx + side * bare)} ${f(ground)}L${f(cx + side * full)} ${f(ground - high)}` +
          `H${f(cx + side * (end - Math.min(high, end - full)))}L${f(cx + side * end)} ${f(ground)}Z`,
      )
    }
    if (s.basin_diameter_m && s.basin_depth_m) {
      const rim = px(s.basin_diameter_m / 2)
      const high = Math.max(2, px(s.basin_depth_m))
      basin.push(
        `M${f(cx + side * (rim - high))} ${f(ground)}Q${f(cx + side * rim)} ${f(ground - high * 1.9)} ` +
          `${f(cx + side * (rim + high))} ${f(ground)}`,
      )
    }
  }

  const w = Math.max(1.2, px(s.caliper_m) / 2)
  const foot = w * 1.9
  const top = ground - above
  const trunk =
    `M${f(cx - foot)} ${f(ground)}Q${f(cx - w)} ${f(ground - above * 0.1)} ${f(cx - w)} ${f(ground - above * 0.24)}` +
    `L${f(cx - w * 0.9)} ${f(top)}H${f(cx + w * 0.9)}L${f(cx + w)} ${f(ground - above * 0.24)}` +
    `Q${f(cx + w)} ${f(ground - above * 0.1)} ${f(cx + foot)} ${f(ground)}Z`

  // the crown's width is to scale; its height is not known, so its branches only reach up to the width's line
  const crownHalf = px(s.crown_diameter_m / 2)
  const tall = above >= 100 && crownHalf > 8 && crownHalf < width / 2 - 4
  const crownY = top - 20
  const crown = tall
    ? {
        half: crownHalf,
        y: crownY,
        branches: branches(cx, ground, above, crownHalf, crownY),
      }
    : null

  const roots: string[] = []
  if (s.root_radius_m > s.ball_radius_m * 1.03) {
    const tip = px(s.root_radius_m)
    for (const side of [-1, 1]) {
      for (const [from, to] of [
        [0.12, 0.1],
        [0.34, 0.3],
        [0.58, 0.58],
        [0.8, 0.82],
      ] as const) {
        const y0 = ground + ballDepth * from
        const y1 = ground + ringDepth * to
        const x0 = cx + side * ballHalf * 0.45
        const x1 = cx + side * (ballHalf + (tip - ballHalf) * (1 - 0.35 * to))
        const bend = (x0 + x1) / 2
        roots.push(`M${f(x0)} ${f(y0)}C${f(bend)} ${f(y0 - 2)} ${f(bend)} ${f(y1 + 5)} ${f(x1)} ${f(y1)}`)
      }
    }
  }

  const known = s.ball_available_l !== null && s.ring_available_l !== null
  const ballShare = known ? s.ball_available_l! / s.ball_holds_l : 0
  const ringShare = known ? s.ring_available_l! / s.ring_holds_l : 0
  const far = known && s.far_available_l !== null && s.far_holds_l > LEAST_FAR * (s.ring_holds_l + s.far_holds_l)
  const farShare = far ? s.far_available_l! / s.far_holds_l : 0
  const depth = Math.max(ringDepth, ballDepth + 1)
  return {
    scale,
    centre: cx,
    ball,
    ring: pail(cx, ringHalf, ringHalf * 0.96, ground, Math.max(ringDepth, ballDepth + 1), ringHalf * 0.42),
    established: pail(cx, established, established * 0.94, ground, Math.max(ringDepth, ballDepth), established * 0.3),
    mulch,
    basin,
    trunk,
    roots,
    crown,
    ballFill: known ? level(ballShare, ground, ballDepth) : null,
    ringFill: known ? level(ringShare, ground, depth) : null,
    farFill: far ? level(farShare, ground, depth) : null,
    nearFrom: far && s.near_from_m > s.ball_radius_m ? px(s.near_from_m) : 0,
    nearHalf: far ? px(s.near_radius_m) : ringHalf,
    ballDepth,
    ringDepth: Math.max(ringDepth, ballDepth + 1),
    ringHalf,
    ballHalf,
    standingWater: s.state === 'too_wet',
  }
}
