import type { SitePlan, XY } from './shape'

/** The outline of a line with a width, longer by `more` at each end. */
export function band(a: XY, b: XY, width: number, more = 0): XY[] {
  const l = Math.hypot(b.x - a.x, b.y - a.y) || 1
  const ex = ((b.x - a.x) / l) * more
  const ey = ((b.y - a.y) / l) * more
  a = { x: a.x - ex, y: a.y - ey }
  b = { x: b.x + ex, y: b.y + ey }
  const nx = ((a.y - b.y) / l) * (width / 2)
  const ny = ((b.x - a.x) / l) * (width / 2)
  return [
    { x: a.x - nx, y: a.y - ny },
    { x: b.x - nx, y: b.y - ny },
    { x: b.x + nx, y: b.y + ny },
    { x: a.x + nx, y: a.y + ny },
  ]
}

/** The corners of a bay. */
export function bayCorners(b: SitePlan['bays'][number]): XY[] {
  const a = ((b.heading ?? 0) * Math.PI) / 180
  const h = (b.length ?? 0) / 2
  const d = { x: h * Math.cos(a), y: h * Math.sin(a) }
  return band({ x: b.centre.x - d.x, y: b.centre.y - d.y }, { x: b.centre.x + d.x, y: b.centre.y + d.y }, b.width ?? 0)
}

/** The corners of an obstacle. */
export const obstacleCorners = (o: SitePlan['obstacles'][number]): XY[] => [
  o.at,
  { x: o.at.x + (o.width ?? 0), y: o.at.y },
  { x: o.at.x + (o.width ?? 0), y: o.at.y + (o.height ?? 0) },
  { x: o.at.x, y: o.at.y + (o.height ?? 0) },
]

/** The corners of a bolt's head about a place. */
export const hexagon = (q: XY, r: number): XY[] =>
  [0, 1, 2, 3, 4, 5].map((i) => ({
    x: q.x + r * Math.cos((i * Math.PI) / 3),
    y: q.y + r * Math.sin((i * Math.PI) / 3),
  }))

/** The corners of a square about a place, `h` to each side. */
export const square = (q: XY, h: number): XY[] =>
  [-1, 1].flatMap((i) => [-1, 1].map((j) => ({ x: q.x + i * h, y: q.y + (i < 0 ? j : -j) * h })))
