/** Layout and painting of the fortnight: a row a tree, a column a day, dryness hanging from the row's top edge, visits
 * standing on its bottom. Drawing only. */

export interface Frame {
  width: number
  /** Width of the column of names. */
  names: number
  days: number
  row: number
}

export interface RowDrawn {
  now: number
  dryness: number[]
  limit: number
  visits: { day: number; litres: number; words: string; pinned: boolean; done: boolean; skipped: boolean }[]
  forbidden: number[]
  /** Day on which it wants water and gets none. */
  waits: string | null
  /** Waiting costs it something. */
  hurts: boolean
  /** Where the line would bend to while a visit is moved. */
  bent: number[] | null
}

export interface Colours {
  ink: string
  soft: string
  root: string
  soil: string
  water: string
  paper: string
  ground: string
  hair: string
  warning: string
  edge: string
  font: string
}

/** Of a row's height so much hangs down for dryness, so much stands for visits. */
const HUNG = 0.52
const STOOD = 0.34
const FOOT_PX = 3
const BAR_PX = 16
/** What a tree loses at most is a dryness of 1. */
const DRIEST = 1

export const cellWidth = (f: Frame) => (f.width - f.names) / f.days
export const cellX = (f: Frame, day: number) => f.names + day * cellWidth(f)
/** The day under a point, null over the names. */
export function dayAt(f: Frame, x: number): number | null {
  const day = Math.floor((x - f.names) / cellWidth(f))
  return x < f.names || day < 0 || day >= f.days ? null : day
}

export const lineY = (f: Frame, top: number, dryness: number) =>
  top + 1 + Math.min(DRIEST, Math.max(0, dryness)) * f.row * HUNG

/** Points of the sagging line: this morning, then each day's end. */
export function line(f: Frame, top: number, now: number, dryness: number[]): { x: number; y: number }[] {
  return [now, ...dryness.slice(0, f.days)].map((dry, i) => ({ x: cellX(f, i), y: lineY(f, top, dry) }))
}

export function barHeight(f: Frame, litres: number, most: number): number {
  return Math.max(5, f.row * STOOD * (litres / Math.max(most, 1e-9)))
}

function path(ctx: CanvasRenderingContext2D, points: { x: number; y: number }[]) {
  ctx.beginPath()
  points.forEach((p, i) => (i ? ctx.lineTo(p.x, p.y) : ctx.moveTo(p.x, p.y)))
}

export function hatch(ctx: CanvasRenderingContext2D, x: number, y: number, w: number, h: number, colour: string) {
  ctx.save()
  ctx.beginPath()
  ctx.rect(x, y, w, h)
  ctx.clip()
  ctx.strokeStyle = colour
  ctx.lineWidth = 1
  ctx.beginPath()
  for (let at = -h; at < w; at += 7) {
    ctx.moveTo(x + at, y + h)
    ctx.lineTo(x + at + h, y)
  }
  ctx.stroke()
  ctx.restore()
}

export interface Sheet {
  rows: RowDrawn[]
  /** First day shown, counted from today. */
  first: number
  /** From this day on the plan is an outlook. */
  outlook: number
  /** Days on which nobody works. */
  closed: boolean[]
}

/** Paint the cells of a stop. The canvas covers all of its rows. */
export function paint(ctx: CanvasRenderingContext2D, f: Frame, sheet: Sheet, c: Colours) {
  ctx.clearRect(0, 0, f.width, f.row * sheet.rows.length)
  const w = cellWidth(f)
  sheet.rows.forEach((row, n) => {
    const top = n * f.row
    const shown = [sheet.first ? row.dryness[sheet.first - 1]! : row.now, ...row.dryness.slice(sheet.first)]
    const points = line(f, top, shown[0]!, shown.slice(1))
    const last = points[points.length - 1]!
    path(ctx, [{ x: points[0]!.x, y: top }, ...points, { x: last.x, y: top }])
    ctx.fillStyle = c.soil
    ctx.fill()
    for (let d = 0; d < f.days; d++) {
      const day = d + sheet.first
      const x = cellX(f, d)
      if (sheet.closed[day] || row.forbidden.includes(day)) {
        ctx.fillStyle = c.ground
        ctx.fillRect(x + 1, top + f.row * (1 - STOOD) - 2, w - 2, f.row * STOOD)
        hatch(ctx, x + 1, top + f.row * (1 - STOOD) - 2, w - 2, f.row * STOOD, c.edge)
      }
      if (d) {
        ctx.fillStyle = c.hair
        ctx.fillRect(x, top + f.row * (1 - STOOD), 1, f.row * STOOD)
      }
    }
    ctx.setLineDash([3, 5])
    ctx.strokeStyle = c.ink
    ctx.lineWidth = 1
    const limitY = Math.round(lineY(f, top, row.limit)) + 0.5
    path(ctx, [
      { x: f.names, y: limitY },
      { x: last.x, y: limitY },
    ])
    ctx.stroke()
    ctx.setLineDash([])
    ctx.strokeStyle = c.root
    ctx.lineWidth = row.bent ? 1 : 2.2
    ctx.lineJoin = 'round'
    path(ctx, points)
    ctx.stroke()
    if (row.bent) {
      const then = [sheet.first ? row.bent[sheet.first - 1]! : row.now, ...row.bent.slice(sheet.first)]
      ctx.lineWidth = 3
      path(ctx, line(f, top, then[0]!, then.slice(1)))
      ctx.stroke()
    }
    ctx.fillStyle = c.hair
    ctx.fillRect(0, top + f.row - 1, f.width, 1)
  })
  const from = Math.max(0, sheet.outlook - sheet.first)
  if (from < f.days) {
    ctx.globalAlpha = 0.4
    hatch(ctx, cellX(f, from), 0, f.width - cellX(f, from), f.row * sheet.rows.length, c.hair)
    ctx.globalAlpha = 1
  }
  sheet.rows.forEach((row, n) => bars(ctx, f, sheet, row, n * f.row, c))
}

function bars(ctx: CanvasRenderingContext2D, f: Frame, sheet: Sheet, row: RowDrawn, top: number, c: Colours) {
  const w = cellWidth(f)
  const most = Math.max(...row.visits.map((v) => v.litres), 1e-9)
  const floor = top + f.row - FOOT_PX - 2
  ctx.font = `600 16px ${c.font}`
  ctx.textBaseline = 'alphabetic'
  for (const visit of row.visits) {
    const d = visit.day - sheet.first
    if (d < 0 || d >= f.days) continue
    const tall = barHeight(f, visit.litres, most)
    const wide = Math.min(BAR_PX, w * 0.3)
    const text = ctx.measureText(visit.words).width
    const x = cellX(f, d) + Math.max(2, (w - wide - 3 - text) / 2)
    ctx.fillStyle = visit.done ? c.water : c.paper
    ctx.fillRect(x, floor - tall, wide, tall)
    ctx.strokeStyle = visit.skipped ? c.soft : c.water
    ctx.lineWidth = 2
    ctx.strokeRect(x, floor - tall, wide, tall)
    if (visit.skipped) {
      path(ctx, [
        { x: x - 2, y: floor + 2 },
        { x: x + wide + 2, y: floor - tall - 2 },
      ])
      ctx.stroke()
    }
    if (visit.pinned) {
      ctx.fillStyle = c.ink
      ctx.fillRect(x - 4, floor + 1, wide + 8, FOOT_PX + 1)
    }
    ctx.fillStyle = visit.skipped ? c.soft : c.water
    ctx.fillText(visit.words, x + wide + 3, floor)
  }
  if (row.waits && sheet.first === 0) {
    ctx.fillStyle = row.hurts ? c.warning : c.soft
    ctx.font = `${row.hurts ? 600 : 500} 16px ${c.font}`
    const words = row.hurts ? `▲ ${row.waits}` : row.waits
    const fits = ctx.measureText(words).width < w - 6
    ctx.fillText(row.hurts && !fits ? '▲' : words, cellX(f, 0) + 4, floor)
  }
}
