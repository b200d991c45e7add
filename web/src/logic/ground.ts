/** A ground plan as it is drawn: how far it reaches, how close its trees stand, what there is room for at a scale. */
import type { Schema } from '@/api/client'

export type Ground = Schema['GroundOut']
export type Tree = Schema['GroundTree']
/** East and north, m. */
export type Spot = [number, number]
/** West, south, east, north, m. */
export type Frame = [number, number, number, number]

/** A frame is never smaller than this, m. */
const LEAST_M = 12

export function frameOf(spots: readonly Spot[], beside_m = 0): Frame {
  const xs = spots.map(([x]) => x)
  const ys = spots.map(([, y]) => y)
  const [west, south, east, north] = spots.length
    ? [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
    : [0, 0, 0, 0]
  const grow = (size: number) => Math.max(0, LEAST_M - size) / 2 + beside_m
  return [west - grow(east - west), south - grow(north - south), east + grow(east - west), north + grow(north - south)]
}

export const spotOf = (tree: Tree): Spot => [tree.x_m, tree.y_m]

/** All that has to be seen at once. */
export const everything = (g: Ground): Spot[] => [
  ...g.trees.map(spotOf),
  ...g.lines.map((one) => one.valve as Spot),
  ...g.things.flatMap((one) => one.paths.flat() as Spot[]),
]

export interface Group {
  stop: string
  trees: Tree[]
  /** How close its closest trees stand, m; Infinity for one tree. */
  apart_m: number
}

/** Trees by stop, in their order; those without one last. */
export function groups(g: Ground): Group[] {
  const found = new Map<string, Tree[]>()
  for (const tree of g.trees) found.set(tree.stop ?? '', [...(found.get(tree.stop ?? '') ?? []), tree])
  return [...found].map(([stop, trees]) => ({ stop, trees, apart_m: apart(trees) }))
}

function apart(trees: readonly Tree[]): number {
  let least = Infinity
  trees.forEach((a, n) =>
    trees.slice(n + 1).forEach((b) => (least = Math.min(least, Math.hypot(a.x_m - b.x_m, a.y_m - b.y_m)))),
  )
  return least
}

/** What there is room for: each tree's cutaway, a dot for each, or the stop's name only. */
export function detail(group: Group, px_per_m: number): 'cutaway' | 'dot' | 'name' {
  const px = group.apart_m * px_per_m
  return px >= CUTAWAY_PX ? 'cutaway' : px >= DOT_PX ? 'dot' : 'name'
}
export const CUTAWAY_PX = 46
export const DOT_PX = 11

export const middle = (trees: readonly Tree[]): Spot => {
  const [west, south, east, north] = frameOf(trees.map(spotOf))
  return [(west + east) / 2, (south + north) / 2]
}

/** Today's trees in their order. */
export const inTurn = (g: Ground): Tree[] =>
  g.trees.filter((tree) => tree.turn !== null).sort((a, b) => a.turn! - b.turn!)

/** How full a tree's ball is, 0 to 1; null where nobody knows. */
export function full(tree: Tree): number | null {
  const have = tree.section?.ball_available_l
  return have === null || have === undefined ? null : Math.max(0, Math.min(1, have / tree.section!.ball_holds_l))
}

/** A length for a scale's bar that is read easily: at most so long, m. */
export function bar(most_m: number, foot_m: number | null): number {
  const unit = foot_m ?? 1
  const most = most_m / unit
  const power = 10 ** Math.floor(Math.log10(most))
  const step = [5, 2, 1].find((one) => one * power <= most) ?? 1
  return step * power * unit
}
