/** Places of a plan view: metres east and north of a trunk to pixels, y downward. No rule of the job here. */
export type Place = readonly number[]

export interface PlanFrame {
  cx: number
  cy: number
  /** pixels a metre */
  scale: number
}

export function at(frame: PlanFrame, x: number, y: number): [number, number] {
  return [frame.cx + x * frame.scale, frame.cy - y * frame.scale]
}

/** The place that is drawn at a pixel, metres east and north. */
export function placeAt(frame: PlanFrame, left: number, top: number): [number, number] {
  return [(left - frame.cx) / frame.scale, (frame.cy - top) / frame.scale]
}

/** How far a place is from the trunk [m], and toward where [deg, 0 north, 90 east]. */
export function toward(x: number, y: number): { away: number; bearing: number } {
  return { away: Math.hypot(x, y), bearing: ((Math.atan2(x, y) * 180) / Math.PI + 360) % 360 }
}

/** The place so far from the trunk in a direction. */
export function placeToward(away: number, bearing: number): [number, number] {
  const turn = (bearing * Math.PI) / 180
  return [away * Math.sin(turn), away * Math.cos(turn)]
}

export function path(frame: PlanFrame, points: readonly Place[], closed = false): string {
  const way = points.map(([x = 0, y = 0]) =>
    at(frame, x, y)
      .map((v) => v.toFixed(1))
      .join(' '),
  )
  return `M${way.join('L')}${closed ? 'Z' : ''}`
}

/** Where a label stands beside an emitter: outward from the trunk, so that it crosses no circle. */
export function outward(x: number, y: number, away: number): [number, number] {
  const far = Math.hypot(x, y) || 1
  return [(x / far) * away, (-y / far) * away]
}

/** Toward where there is most room between emitters and tees [deg]: what is written there crosses none. */
export function widestGap(look: {
  emitters: readonly { x_m: number; y_m: number }[]
  fittings: readonly { kind: string; x_m: number; y_m: number }[]
}): number {
  const taken = [...look.emitters, ...look.fittings.filter((f) => f.kind === 'tee')]
    .map((e) => toward(e.x_m, e.y_m).bearing)
    .sort((a, b) => a - b)
  let [turn, widest] = [45, 0]
  taken.forEach((from, n) => {
    const to = n + 1 < taken.length ? taken[n + 1]! : taken[0]! + 360
    if (to - from > widest) [widest, turn] = [to - from, (from + to) / 2]
  })
  return turn
}
