import type { Schemas } from '@/api/client'
import type { Board } from './shape'

/** One cell of the drawn board: a device with the spaces that it takes, or a free space. */
export interface Cell {
  first: number
  spaces: number[]
  slot?: Schemas['Slot']
  index: number
  row: number
  column: number
  down: number
  across: number
}

/** Ways in one row of a board in rows. */
export const perRow = (b: Board) => Math.ceil((b.ways ?? 0) / Math.max(b.rows ?? 1, 1))
const step = (b: Board) => (b.layout === 'columns' ? 2 : 1)

/** Places every device and free space in a grid, two columns or rows of ways. */
export function cells(b: Board): Cell[] {
  const taken = new Set<number>()
  const out: Cell[] = []
  const place = (n: number) =>
    b.layout === 'columns'
      ? { row: Math.ceil(n / 2), column: n % 2 ? 1 : 2 }
      : { row: Math.ceil(n / perRow(b)), column: ((n - 1) % perRow(b)) + 1 }
  b.slots.forEach((slot, index) => {
    const poles = Math.max(slot.poles ?? 1, 1)
    const spaces = Array.from({ length: poles }, (_, k) => slot.at + k * step(b))
    spaces.forEach((n) => taken.add(n))
    const down = b.layout === 'columns' ? poles : 1
    out.push({
      first: slot.at,
      spaces,
      slot,
      index,
      ...place(slot.at),
      down,
      across: b.layout === 'columns' ? 1 : poles,
    })
  })
  for (let n = 1; n <= (b.ways ?? 0); n++) {
    if (!taken.has(n)) out.push({ first: n, spaces: [n], index: -1, ...place(n), down: 1, across: 1 })
  }
  return out.sort((x, y) => x.first - y.first)
}

/** Reads "17-20, 35" as a list of spaces. */
export function readSpaces(text: string): number[] {
  const out: number[] = []
  for (const piece of text.split(/[,; ]+/).filter(Boolean)) {
    const [from, to] = piece.split('-').map(Number)
    for (let n = from; n <= (to || from) && out.length < 120; n++) if (n > 0) out.push(n)
  }
  return out
}

/** Writes a list of spaces as "17-20, 35". */
export function writeSpaces(list: number[]): string {
  const sorted = [...list].sort((a, b) => a - b)
  const runs: string[] = []
  for (let i = 0; i < sorted.length;) {
    let k = i
    while (sorted[k + 1] === sorted[k] + 1) k++
    runs.push(k > i ? `${sorted[i]}-${sorted[k]}` : String(sorted[i]))
    i = k + 1
  }
  return runs.join(', ')
}
