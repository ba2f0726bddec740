import type { Ref } from 'vue'
import type { SitePlan, XY } from './shape'

/** What can be drawn on the site plan. */
export type Kind = 'walls' | 'doors' | 'paths' | 'bays' | 'obstacles' | 'gas' | 'positions' | 'board' | 'meter'
export interface Pick {
  kind: Kind
  index: number
}

export const kindWords: Record<Kind, string> = {
  walls: 'wall',
  doors: 'door',
  paths: 'path',
  bays: 'bay',
  obstacles: 'obstacle',
  gas: 'gas',
  positions: 'position',
  board: 'board',
  meter: 'meter',
}

export const snapTo = 0.05 // m
const usualLine = 2 // m
const shortest = 0.2 // m: less is a press and no pull
export const snap = (v: number) => Math.round(v / snapTo) * snapTo
const clean = (v: number) => +v.toFixed(4)

/** The points of a thing that move with it. */
export function handles(plan: SitePlan, p: Pick): XY[] {
  if (p.kind === 'board' || p.kind === 'meter') return plan[p.kind] ? [plan[p.kind]!] : []
  const thing = plan[p.kind][p.index] as Record<string, unknown> | undefined
  if (!thing) return []
  return ['at', 'centre', 'from', 'to'].map((k) => thing[k] as XY | undefined).filter((q): q is XY => !!q)
}

/** The changes that the editor makes to a plan. */
export function usePlan(plan: Ref<SitePlan>) {
  /** Moves a thing so that its first handle lies at a place, snapped; one of its ends alone where `end` is given. */
  function move(p: Pick, to: XY, end?: number) {
    const points = handles(plan.value, p)
    const lead = points[end ?? 0]
    if (!lead) return
    const dx = clean(snap(to.x) - lead.x)
    const dy = clean(snap(to.y) - lead.y)
    for (const q of end === undefined ? points : [lead]) {
      q.x = clean(q.x + dx)
      q.y = clean(q.y + dy)
    }
  }
  function add(kind: Kind, at: XY): Pick {
    const to = { x: clean(at.x + usualLine), y: at.y }
    const p = plan.value
    const letter = (used: string[]) => 'ABCDEFGHIJKL'.split('').find((c) => !used.includes(c)) ?? '?'
    const number = (used: string[]) => String([...Array(13).keys()].slice(1).find((n) => !used.includes(String(n))))
    if (kind === 'walls') p.walls.push({ from: at, to, thick: 0.3 })
    else if (kind === 'doors') p.doors.push({ from: at, to: { x: clean(at.x + 0.9), y: at.y } })
    else if (kind === 'paths') p.paths.push({ from: at, to, width: 1 })
    else if (kind === 'bays')
      p.bays.push({ id: number(p.bays.map((b) => b.id)), centre: at, length: 5, width: 2.5, heading: 90 })
    else if (kind === 'obstacles') p.obstacles.push({ at, width: 1, height: 0.5 })
    else if (kind === 'gas') p.gas.push({ kind: 'meter', from: at })
    else if (kind === 'positions') p.positions.push({ id: letter(p.positions.map((q) => q.id)), at })
    else p[kind] = at
    return { kind, index: kind === 'board' || kind === 'meter' ? 0 : p[kind].length - 1 }
  }
  /** Adds a thing where the hand presses; of a line both ends, for one to be pulled. */
  function put(kind: Kind, at: XY): Pick & { pulled: boolean } {
    const p = add(kind, { x: clean(snap(at.x)), y: clean(snap(at.y)) })
    const line = kind === 'walls' || kind === 'doors' || kind === 'paths'
    if (line) {
      const l = plan.value[kind][p.index]!
      l.to = { ...l.from }
    }
    return { ...p, pulled: line }
  }
  /** Gives a line that was pressed and not pulled its usual length. */
  function settle(p: Pick) {
    const [from, to] = handles(plan.value, p)
    if (from && to && Math.hypot(to.x - from.x, to.y - from.y) < shortest) to.x = clean(from.x + usualLine)
  }
  function remove(p: Pick) {
    if (p.kind === 'board' || p.kind === 'meter') plan.value[p.kind] = undefined
    else plan.value[p.kind].splice(p.index, 1)
  }
  return { move, add, put, settle, remove }
}

/** The extent of a plan, m, with room round it. */
export function extent(plan: SitePlan, cars: { outline: XY[] }[]) {
  const xs: number[] = []
  const ys: number[] = []
  const grow = (q?: XY, by = 0) => {
    if (!q) return
    xs.push(q.x - by, q.x + by)
    ys.push(q.y - by, q.y + by)
  }
  for (const w of [...plan.walls, ...plan.doors, ...plan.paths]) [w.from, w.to].forEach((q) => grow(q))
  for (const b of plan.bays) grow(b.centre, Math.max(b.length ?? 5, b.width ?? 2.5) / 2)
  for (const o of plan.obstacles)
    [o.at, { x: o.at.x + (o.width ?? 0), y: o.at.y + (o.height ?? 0) }].forEach((q) => grow(q))
  for (const c of cars) c.outline.forEach((q) => grow(q))
  for (const p of plan.positions) grow(p.at)
  for (const g of plan.gas) grow(g.from)
  grow(plan.board)
  grow(plan.meter)
  if (!xs.length) return { left: 0, right: 10, bottom: 0, top: 6 }
  const room = 0.9
  return {
    left: Math.min(...xs) - room,
    right: Math.max(...xs) + room,
    bottom: Math.min(...ys) - room,
    top: Math.max(...ys) + room,
  }
}
