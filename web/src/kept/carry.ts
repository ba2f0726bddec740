import { ask, client } from '@/api/client'
import { watch } from 'vue'
import { forgetOld, online } from './fetch'
import { person } from './person'
import { loadRules } from './judge'
import { look, reserve, waiting } from './outbox'
import { send, sendAgain, stopped } from './sender'
import { askPromise } from './store'

const often = 15 * 60_000 // ms between looks for the crew's next jobs
const idle = 1_500 // ms, before the rules are loaded ahead: not while somebody only passes by
const again = 1_000 // ms between looks for what waits

const fresh = { cache: 'no-cache' as const } // what is on the device already is asked for again

/** Reads the jobs that this person's device should carry, so that they are here without signal. */
async function carry() {
  const last = `${person()} ${Math.floor(Date.now() / often)}`
  if (localStorage.getItem('carried') === last) return
  const jobs = await ask(client.GET('/api/mine', fresh))
  await ask(client.GET('/api/near-misses', fresh))
  await ask(client.GET('/api/chargers', fresh))
  for (const { id } of jobs) {
    const path = { job: id }
    const view = await ask(client.GET('/api/jobs/{job}', { params: { path }, ...fresh }))
    await ask(client.GET('/api/jobs/{job}/visit', { params: { path }, ...fresh }))
    await ask(client.GET('/api/jobs/{job}/day-sheet', { params: { path }, ...fresh })).catch(() => undefined)
    for (const p of view.job.survey?.places ?? []) {
      const point = { ...path, point: p.point }
      await ask(client.GET('/api/jobs/{job}/points/{point}/route', { params: { path: point }, ...fresh })).catch(
        () => undefined,
      )
    }
    for (const p of view.job.survey?.photos ?? []) await fetch(`api/jobs/${id}/photos/${p.digest}`)
  }
  localStorage.setItem('carried', last)
}

let sends = false
let carries = false

/** Begins to send, once someone is signed in. */
export function beginSending() {
  if (sends) return void look()
  sends = true
  void send() // what an earlier visit left
  window.setInterval(() => waiting.value.some((i) => !i.refused) && stopped.value !== 'sign in' && sendAgain(), again)
  watch(online, (is) => is && void send(), { flush: 'sync' })
}

/** Begins to carry jobs and the rules, where people go out to sites, once the page has what it needs first. */
export function beginCarrying(toSites: boolean) {
  if (carries) return
  carries = true
  const round = () => carry().then(forgetOld, () => undefined)
  void askPromise(true)
  void reserve()
  if (!toSites) return
  void round()
  window.setTimeout(loadRules, idle)
  window.setInterval(round, often)
}
