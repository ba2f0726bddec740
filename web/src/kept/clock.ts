import { computed, ref } from 'vue'

const key = 'clock-offset'
const exact = 3_000 // ms: a delay of the network and the header's whole second are no wrong clock. Common practice, no source.
const wrong = 120_000 // ms, from which a person is told. Common practice, no source.

/** How far the server's clock is ahead of this device's, ms, as it was at the last answer. */
const offset = ref(Number(localStorage.getItem(key) ?? 0))

/** Learns the server's time from an answer to what was asked at a time of this device, ms. */
export function learn(response: Response, asked: number) {
  const said = Date.parse(response.headers.get('Date') ?? '')
  if (Number.isNaN(said)) return
  const found = said + 500 - (asked + Date.now()) / 2
  const now = Math.abs(found) < exact ? 0 : Math.round(found)
  if (Math.abs(now - offset.value) < exact) return
  offset.value = now
  localStorage.setItem(key, String(now))
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
