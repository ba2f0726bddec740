import { ref } from 'vue'

// Written out here: a browser takes 20 ms and more to make its first Intl.DateTimeFormat, on a phone 100.
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sept', 'Oct', 'Nov', 'Dec']
const weekdays = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
/** How a day is written: as 2 January 2006 would be, as a country's data have it. */
const usual = '2 Jan 2006'
const layout = ref(usual)

/** From now on days are written as a country writes them; without one, as usual. */
export function writeDays(as = usual) {
  layout.value = as
}

const pattern = /2006|Jan|2/g
const written = (form: string, y: string, m: number, d: number) =>
  form.replace(pattern, (p) => (p === '2006' ? y : p === 'Jan' ? months[m - 1] : String(d)))

const two = (n: number) => String(n).padStart(2, '0')

/** A day such as 2026-05-04 as people say it: 4 May 2026; without its year: 4 May. */
export function dayText(iso: string, year = true): string {
  const [y, m, d] = iso.split('-')
  return written(year ? layout.value : layout.value.replace(/,? ?2006,? ?/, ''), y, Number(m), Number(d))
}

/** A day in figures, in the order of the country: 04/05/2026. */
export function dayFigures(iso: string): string {
  const [y, m, d] = iso.split('-')
  const parts = layout.value.match(pattern) ?? []
  return parts.map((p) => (p === '2006' ? y : p === 'Jan' ? m : d)).join('/')
}

/**
 * The day that somebody typed: in figures in the order of the country (04/05/26), as people say it (4 May 2026), or as
 * files have it (2026-05-04). '' where it is none.
 */
export function readDay(typed: string): string {
  const iso = /^(\d{4})-(\d\d?)-(\d\d?)$/.exec(typed.trim())
  if (iso) return dayOf(iso[1], iso[2], iso[3])
  const parts = typed.trim().split(/[\s,./-]+/)
  if (parts.length !== 3) return ''
  const named = parts.findIndex((p) => /^[a-z]{3}/i.test(p))
  const month =
    named < 0
      ? ''
      : String(months.findIndex((m) => parts[named].slice(0, 3).toLowerCase() === m.slice(0, 3).toLowerCase()) + 1)
  const rest = parts.filter((_, i) => i !== named)
  if (named >= 0) return dayOf(rest[1], month, rest[0])
  const order = dayFigures('y-m-d').split('/')
  const of = (p: string) => parts[order.indexOf(p)]
  return dayOf(of('y'), of('m'), of('d'))
}

function dayOf(y: string, m: string, d: string): string {
  const iso = `${y.length === 2 ? `20${y}` : y}-${two(Number(m))}-${two(Number(d))}`
  const t = new Date(iso)
  return !isNaN(t.getTime()) && t.toISOString().slice(0, 10) === iso ? iso : '' // 31 February is none
}

/** A day with its day of the week: Fri 27 Nov. */
export const weekdayText = (iso: string): string => `${weekdays[new Date(iso).getUTCDay()]} ${dayText(iso, false)}`

/** The day that it is here, by this device's clock: 2026-05-04. */
export const localDay = (t: Date): string => `${t.getFullYear()}-${two(t.getMonth() + 1)}-${two(t.getDate())}`

/** The month of a moment, by the calendar of UTC: May. */
export const monthText = (t: Date): string => months[t.getUTCMonth()]

/** A moment as people say it, by this device's time of day: 4 May, 11:20. */
export function momentText(iso: string): string {
  const t = new Date(iso)
  return `${dayText(localDay(t), false)}, ${clockText(iso)}`
}

/** A moment with its year, by this device's time of day: 4 May 2026, 11:20. */
export function datedText(iso: string): string {
  const t = new Date(iso)
  return `${dayText(localDay(t))}, ${clockText(iso)}`
}

/** How an entry came into the log, as a part of a sentence; '' where it was written here at once. */
export function cameText(e: { arrived?: string; imported?: { by: string; at: string } }): string {
  const late = e.arrived ? `, kept without signal until ${momentText(e.arrived)}` : ''
  return e.imported ? `${late}, by a file that ${e.imported.by} read in ${momentText(e.imported.at)}` : late
}

/** The time of day of a moment, by this device's: 11:20. */
export function clockText(iso: string): string {
  const t = new Date(iso)
  return `${two(t.getHours())}:${two(t.getMinutes())}`
}

/** The day by this device's clock. */
export function todayHere(): string {
  const d = new Date()
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}`
}
