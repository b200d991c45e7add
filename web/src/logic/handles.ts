/** What of a layout besides its emitters can be taken in hand on its drawing: its circles, arms, lines, feed, tees, and
 * what stands beside it. Where each handle lies, and which measures it stands for; what they do is the core's. */
import type { Schema } from '@/api/client'
import { placeToward, toward, widestGap } from '@/drawing/plan'

type Choice = Schema['ChoiceIO']
type Obstacle = Schema['ObstacleIO']
export interface Measures {
  choice: Choice
  obstacles: Obstacle[]
}
export type Part = 'radius' | 'inner' | 'reach' | 'offset' | 'feed' | 'tee' | 'beside'
export interface Handle {
  part: Part
  /** which obstacle or tee, from 0 on */
  at: number
  x: number
  y: number
  /** across a row: toward where its line lies from the trunks [deg] */
  across: number
}

/** An arm ends in an emitter, and a tee lies under the feed's handle: handles stand so far beside them, in m. */
const BESIDE_M = 0.12
const WHOLE_TURN = 360
const ALONG = 0.2
/** An arrow key turns the feed so far. */
const TURN_DEG = 5
/** No ring is smaller and nothing stands nearer, in m; what the trunk takes is refused by the core. */
const LEAST_M = 0.02

export const keyOf = (handle: Handle) => `${handle.part}${handle.at}`

/**
 * @param look The layout as it is drawn.
 * @param obstacles What stands beside it, as typed.
 * @param onLine Whether its feed comes from a line, whose side is the line's.
 * @param reach Half the side of what is drawn, in m: what lies beyond can't be taken hold of.
 */
export function handlesOf(
  look: Schema['DripLook'],
  obstacles: readonly Obstacle[],
  onLine: boolean,
  reach: number,
): Handle[] {
  const c = look.choice
  const found: Handle[] = []
  const put = (part: Part, [x, y]: readonly [number, number], at = 0, across = 0) => {
    if (Math.max(Math.abs(x), Math.abs(y)) < reach) found.push({ part, at, x, y, across })
  }
  if (c.pattern === 'row_lines') {
    const way = look.runs.find((run) => run.kind === 'line')?.path
    if (way?.length) {
      const [[x0 = 0, y0 = 0] = [], [x1 = 0, y1 = 0] = []] = [way[0], way[way.length - 1]]
      put('offset', [x0 + ALONG * (x1 - x0), y0 + ALONG * (y1 - y0)], 0, toward(x1 - x0, y1 - y0).bearing + 90)
    }
  } else {
    const free = widestGap(look)
    put('radius', placeToward(c.radius_m, free))
    if (c.pattern === 'two_rings') put('inner', placeToward(c.inner_radius_m, free))
    if (c.pattern === 'ring_arms')
      put('reach', placeToward(c.arm_reach_m + BESIDE_M, c.feed_bearing_deg + WHOLE_TURN / 2 / c.arms))
    if (!onLine) put('feed', placeToward(c.radius_m + BESIDE_M, c.feed_bearing_deg))
  }
  const tees = look.fittings.filter((f) => f.kind === 'tee')
  tees.forEach((f, n) => put('tee', [f.x_m, f.y_m], n))
  obstacles.forEach((o, n) => {
    put('beside', placeToward(o.distance_m + across(o), o.bearing_deg), n)
  })
  return found
}

const round = (metres: number) => Math.max(LEAST_M, Math.round(metres * 1000) / 1000)
const across = (o: Obstacle) => (o.kind === 'post' ? o.across_m / 2 : 0)

/** What a handle stands for now: how far [m], and toward where [deg] where that can be changed, too. */
export function measureOf(handle: Handle, { choice, obstacles }: Measures): { away: number; bearing: number | null } {
  const one = obstacles[handle.at]
  if (handle.part === 'beside') return { away: one?.distance_m ?? 0, bearing: one?.bearing_deg ?? 0 }
  if (handle.part === 'feed') return { away: 0, bearing: choice.feed_bearing_deg }
  if (handle.part === 'tee') return toward(handle.x, handle.y)
  const away = {
    radius: choice.radius_m,
    inner: choice.inner_radius_m,
    reach: choice.arm_reach_m,
    offset: choice.offset_m,
  }[handle.part]
  return { away, bearing: null }
}

/** The measures once a handle stands for others: so far [m], toward so many degrees. */
export function withMeasure(handle: Handle, away: number, bearing: number, { choice, obstacles }: Measures): Measures {
  const as = (measures: Partial<Choice>): Measures => ({ choice: { ...choice, ...measures }, obstacles })
  const far = round(away)
  const whole = ((Math.round(bearing) % WHOLE_TURN) + WHOLE_TURN) % WHOLE_TURN
  if (handle.part === 'radius') {
    // arms keep what they reach beyond the ring
    const reach = choice.pattern === 'ring_arms' ? choice.arm_reach_m + far - choice.radius_m : choice.arm_reach_m
    return as({ radius_m: far, arm_reach_m: Math.round(reach * 1000) / 1000 })
  }
  if (handle.part === 'inner') return as({ inner_radius_m: far })
  if (handle.part === 'reach') return as({ arm_reach_m: far })
  if (handle.part === 'offset') return as({ offset_m: far })
  if (handle.part === 'feed') return as({ feed_bearing_deg: whole })
  if (handle.part === 'tee') return { choice, obstacles } // it is moved by itself, as an emitter is
  return {
    choice,
    obstacles: obstacles.map((o, n) => (n === handle.at ? { ...o, distance_m: far, bearing_deg: whole } : o)),
  }
}

/** The measures once a handle is dragged to another place: lengths in whole steps [m]. */
export function held(handle: Handle, x: number, y: number, step: number, now: Measures): Measures {
  const { away, bearing } = toward(x, y)
  let far = away
  if (handle.part === 'reach') far -= BESIDE_M
  if (handle.part === 'beside') far -= across(now.obstacles[handle.at]!)
  if (handle.part === 'offset') {
    // only what lies across the row counts
    const turn = ((bearing - handle.across) * Math.PI) / 180
    far = Math.abs(away * Math.cos(turn))
  }
  return withMeasure(handle, Math.round(far / step) * step, bearing, now)
}

/** The measures after an arrow key: farther or nearer, round the ring, or to any side for what stands beside it. */
export function nudged(handle: Handle, right: number, up: number, step: number, now: Measures): Measures {
  if (handle.part === 'beside') return held(handle, handle.x + right * step, handle.y + up * step, step, now)
  const { away, bearing } = measureOf(handle, now)
  return withMeasure(handle, away + (right + up) * step, (bearing ?? 0) + (right - up) * TURN_DEG, now)
}
