import { computed, ref } from 'vue'

const key = 'clock-offset'
const exact = 3_000 // ms: a delay of the network and the header's whole second are no wrong clock. Common practice, no source.
const wrong = 120_000 // ms, from which a person is told. Common practice, no source.
const tick = 5_000 // ms between looks at the clock
const jump = 30_000 // ms, from which the clock was set and did not run on. Common practice, no source.

/** How far the server's clock is ahead of this device's, ms: as at the last answer, and as the clock was set since. */
const offset = ref(Number(localStorage.getItem(key) ?? 0))
export const clockOffset = () => offset.value

function setOffset(ms: number) {
  offset.value = ms
  localStorage.setItem(key, String(ms))
}

const contactKey = 'contact'
/** The server's mark of the last contact with it, which it can date. */
export const contact = () => localStorage.getItem(contactKey) ?? ''

/** Learns the server's time from an answer to what was asked at a time of this device, ms. */
export function learn(response: Response, asked: number) {
  const mark = response.headers.get('Dogbolt-Contact')
  if (mark) localStorage.setItem(contactKey, mark)
  const said = Date.parse(response.headers.get('Date') ?? '')
  if (Number.isNaN(said)) return
  const found = said + 500 - (asked + Date.now()) / 2
  const now = Math.abs(found) < exact ? 0 : Math.round(found)
  // A slow answer tells the time only as closely as it was slow.
  if (Math.abs(now - offset.value) >= exact + (Date.now() - asked) / 2) setOffset(now)
}

/** The time by the server's clock, as this device last learnt it: what entries are stamped with. */
export const serverNow = () => new Date(Date.now() + offset.value)

/** What is wrong with this device's clock, in words; '' where it is right. */
export const clockWrong = computed(() => {
  const ms = Math.abs(offset.value)
  if (ms < wrong) return ''
  const minutes = Math.round(ms / 60_000)
  const long = minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`
  return `clock ${long} ${offset.value > 0 ? 'slow' : 'fast'}`
})

const lastKey = 'clock-seen'
let last = { date: 0, steady: 0, shown: false }

/**
 * Sees that the clock was set while there is no signal: it went back, or on by more than the page lived through. What
 * is logged goes on by the time of before. A device that slept is not told from one whose clock was set on, so that
 * only a page that was shown all the while counts.
 */
export function watchClock() {
  const now = { date: Date.now(), steady: performance.now(), shown: document.visibilityState === 'visible' }
  const before = last.date || Number(localStorage.getItem(lastKey) ?? 0)
  const ran = last.date ? now.steady - last.steady : 0
  const set = before ? now.date - before - ran : 0
  const back = set < -jump
  const on = last.date > 0 && last.shown && now.shown && ran < 2 * tick && set > jump
  if (back || on) setOffset(offset.value - Math.round(set))
  last = now
  localStorage.setItem(lastKey, String(now.date))
}
watchClock()
if (typeof window !== 'undefined') window.setInterval(watchClock, tick)
