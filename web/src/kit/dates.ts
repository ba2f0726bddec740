// Written out here: a browser takes 20 ms and more to make its first Intl.DateTimeFormat, on a phone 100.
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sept', 'Oct', 'Nov', 'Dec']
const weekdays = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const two = (n: number) => String(n).padStart(2, '0')

/** A day such as 2026-05-04 as people say it, without its year: 4 May. */
function dayOfYear(iso: string): string {
  const [, m, d] = iso.split('-').map(Number)
  return `${d} ${months[m - 1]}`
}

/** A day such as 2026-05-04 as people say it: 4 May 2026. */
export const dayText = (iso: string): string => `${dayOfYear(iso)} ${iso.slice(0, 4)}`

/** A day with its day of the week: Fri 27 Nov. */
export const weekdayText = (iso: string): string => `${weekdays[new Date(iso).getUTCDay()]} ${dayOfYear(iso)}`

/** The day that it is here, by this device's clock: 2026-05-04. */
export const localDay = (t: Date): string => `${t.getFullYear()}-${two(t.getMonth() + 1)}-${two(t.getDate())}`

/** The month of a moment, by the calendar of UTC: May. */
export const monthText = (t: Date): string => months[t.getUTCMonth()]

/** A moment as people say it, by this device's time of day: 4 May, 11:20. */
export function momentText(iso: string): string {
  const t = new Date(iso)
  return `${t.getDate()} ${months[t.getMonth()]}, ${clockText(iso)}`
}

/** A moment with its year, by this device's time of day: 4 May 2026, 11:20. */
export function datedText(iso: string): string {
  const t = new Date(iso)
  return `${t.getDate()} ${months[t.getMonth()]} ${t.getFullYear()}, ${clockText(iso)}`
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
