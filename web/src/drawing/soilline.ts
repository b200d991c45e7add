/** Layout of the soil-line chart: rain and water stand on the line, dryness hangs below it. Drawing only. */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import type { Schema } from '@/api/client'

type Day = Schema['ChartDay']

export interface Frame {
  width: number
  above: number
  below: number
  left: number
  right: number
}

/** Width that a digit of the chart's condensed type takes at its size. */
export const DIGIT_PX = 8.2
const APART_PX = 4
/** A mark is not cut by the chart's lower edge. */
const MARK_ROOM = 1.06

/** Those of some figures, from left to right, that stand clear of the one kept before them. */
export function clear<T extends { from: number; to: number }>(figures: T[]): T[] {
  let last = -Infinity
  return figures.filter(({ from, to }) => {
    const free = from >= last + APART_PX
    if (free) last = to
    return free
  })
}

function ceilTo(value: number, steps: number[]): number {
  return steps.find((s) => s >= value) ?? Math.ceil(value / 100) * 100
}

/** litres and rainMm: the day's figures in the units shown, so that axes end on round numbers; felt: dryness that is marked. */
export function soilline(
  days: Day[],
  today: string,
  limit: number,
  frame: Frame,
  water: (d: Day) => number,
  rain: (d: Day) => number,
  felt: number[] = [],
) {
  const step = (frame.width - frame.left - frame.right) / days.length
  const x = (i: number) => frame.left + i * step
  const at = days.findIndex((d) => d.day === today)
  const mostWater = ceilTo(
    Math.max(1, ...days.map(water)),
    [1, 2, 4, 5, 8, 10, 15, 20, 30, 40, 60, 80, 100, 150, 200, 300, 400],
  )
  const mostRain = ceilTo(Math.max(0.01, ...days.map(rain)), [0.25, 0.5, 1, 2, 4, 5, 10, 20, 30, 50, 80, 100, 200, 300])
  const up = (value: number, most: number) => (frame.above - 42) * (value / most)
  const deepest = Math.max(limit * 1.35, ...days.map((d) => d.dryness ?? 0), ...felt.map((dry) => dry * MARK_ROOM))
  const y = scaleLinear()
    .domain([0, deepest])
    .range([frame.above, frame.above + frame.below])
  const points = days.map((d, i) => ({ x: x(i) + step, y: d.dryness === null ? null : y(d.dryness) }))
  const draw = line<{ x: number; y: number | null }>()
    .defined((p) => p.y !== null)
    .x((p) => p.x)
    .y((p) => p.y!)
  /** Twice as far off as the plan may be, to both sides. */
  const sure = days
    .map((d, i) => ({ x: x(i) + step, dry: d.dryness, off: 2 * (d.dryness_sd ?? 0) }))
    .filter((p) => p.dry !== null)
  const band = sure.length
    ? `M${sure.map((p) => `${p.x.toFixed(1)} ${y(Math.max(0, p.dry! - p.off)).toFixed(1)}`).join('L')}L${[...sure]
        .reverse()
        .map((p) => `${p.x.toFixed(1)} ${Math.min(frame.above + frame.below, y(p.dry! + p.off)).toFixed(1)}`)
        .join('L')}Z`
    : ''
  const past = points.slice(0, Math.max(0, at))
  const coming = points.slice(Math.max(0, at - 1))
  const hung = points.filter((p) => p.y !== null)
  const area = hung.length
    ? `M${hung[0]!.x} ${frame.above}${hung.map((p) => `L${p.x.toFixed(1)} ${p.y!.toFixed(1)}`).join('')}L${hung[hung.length - 1]!.x} ${frame.above}Z`
    : ''
  return {
    step,
    at,
    x,
    y,
    mostWater,
    mostRain,
    up,
    past: draw(past) ?? '',
    coming: draw(coming) ?? '',
    area,
    band,
    limitY: y(limit),
    todayX: x(at),
    bottom: frame.above + frame.below,
  }
}
