/** A day such as 2026-05-04 as people say it: 4 May 2026. */
export function dayText(iso: string): string {
  const [y, m, d] = iso.split('-').map(Number)
  return new Date(y, m - 1, d).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
}

/** A moment as people say it: 4 May, 11:20. */
export function momentText(iso: string): string {
  const t = new Date(iso)
  const day = t.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
  return `${day}, ${clockText(iso)}`
}

/** When an entry that a device kept reached the server, as a part of a sentence; '' where it came at once. */
export function lateText(e: { arrived?: string }): string {
  return e.arrived ? `, kept without signal until ${momentText(e.arrived)}` : ''
}

/** The time of day of a moment: 11:20. */
export function clockText(iso: string): string {
  return new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
}

/** A day with its day of the week: Fri 27 Nov. */
export function weekdayText(iso: string): string {
  return new Date(iso + 'T00:00:00Z').toLocaleDateString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  })
}
