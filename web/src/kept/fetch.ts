import { ref } from 'vue'
import type { JobView } from '@/api/types'
import { learn } from './clock'
import { judge } from './judge'
import { overlay } from './overlay'
import { displaced, person, personHeader } from './person'
import { pending, store } from './store'

/** Whether the server answered when it was last asked. */
export const signal = ref(navigator.onLine)
window.addEventListener('offline', () => (signal.value = false))
window.addEventListener('online', () => (signal.value = true))

const kept =
  /^\/api\/(session|mine|near-misses|chargers|firm\/resources|jobs(\/[^/]+(\/(visit|day-sheet|papers|as-built|points\/[^/]+\/(setting|site|route)))?)?)$/
const patience = 8_000 // ms, before what is kept has to do
const limit = 30_000 // ms, before a request counts as not answered. Common practice, no source.
const slow = 300_000 // ms, for files: a photo of 600 kB at 2 kB/s
const old = 30 * 24 * 3600_000 // ms, after which an answer is forgotten

const keyOf = (address: URL) => `${person()} ${address.pathname}${address.search}`

const json = (body: unknown, at: string) =>
  new Response(typeof body === 'string' ? body : JSON.stringify(body), {
    headers: { 'Content-Type': 'application/json', 'X-Kept': at },
  })

/** Reads the job of an address with what was not sent, as it was kept. */
export async function keptView(job: string): Promise<JobView | undefined> {
  const answer = await store.answers.get(`${person()} /api/jobs/${job}`)
  return answer && overlay(JSON.parse(answer.body) as JobView, await pending(job))
}

/** What the device can answer by itself. */
async function ownAnswer(address: URL): Promise<Response | undefined> {
  const [, , , job, kind, point] = address.pathname.split('/')
  if (address.pathname.startsWith('/api/jobs/') && job) {
    const view = await keptView(job)
    if (!view) return undefined
    const ask = { job: view.job, policy: view.policy }
    if (!kind) return json(view, 'device')
    if (kind === 'as-built') return json((await judge({ op: 'built', ...ask })).built, 'device')
    if (kind === 'points' && address.pathname.endsWith('/setting'))
      return json((await judge({ op: 'setting', point: decodeURIComponent(point), ...ask })).setting, 'device')
  }
  const answer = await store.answers.get(keyOf(address))
  if (answer) return json(answer.body, answer.at)
  if (address.pathname !== '/api/jobs') return undefined
  // A list that was not asked for before: the jobs that are carried.
  const mine = await store.answers.get(`${person()} /api/mine`)
  if (!mine) return undefined
  const jobs = JSON.parse(mine.body) as JobView['row'][]
  return json({ jobs, total: jobs.length }, mine.at)
}

/**
 * fetch that keeps what it reads, and answers with it while there is no signal. What this device has not sent is part
 * of a job either way.
 */
export async function carriedFetch(request: Request): Promise<Response> {
  const address = new URL(request.url)
  // Signing in is nobody's yet; all else is this tab's, or of who made what is sent.
  const signing = address.pathname === '/api/session' || address.pathname === '/api/setup'
  if (person() && !signing && !request.headers.has(personHeader)) request.headers.set(personHeader, person())
  const asked = Date.now()
  const response = await carried(request, address)
  if (!response.headers.has('X-Kept')) learn(response, asked)
  if (response.status === 412 && request.headers.get(personHeader) === person()) displaced.value = true
  return response
}

async function carried(request: Request, address: URL): Promise<Response> {
  if (request.method !== 'GET' || !kept.test(address.pathname)) {
    const type = request.headers.get('Content-Type')
    const time = AbortSignal.timeout(type && !type.includes('json') ? slow : limit)
    const response = await fetch(request, { signal: AbortSignal.any([request.signal, time]) })
    signal.value = true
    return response
  }
  let response: Response
  try {
    const has = person() && (await store.answers.get(keyOf(address)))
    const time = AbortSignal.timeout(has ? patience : limit)
    response = await fetch(request, { signal: AbortSignal.any([request.signal, time]) })
    signal.value = true
  } catch (e) {
    signal.value = false
    const own = person() ? await ownAnswer(address) : undefined
    if (own) return own
    throw e
  }
  if (!response.ok || !(person() || address.pathname === '/api/session')) return response
  const body = await response.clone().text()
  // A full disk loses nothing here: the answer only is not kept.
  await store.answers.put({ key: keyOf(address), at: new Date().toISOString(), body }).catch(() => undefined)
  const job = /^\/api\/jobs\/([^/]+)$/.exec(address.pathname)?.[1]
  const items = job ? await pending(job) : []
  return items.length ? json(await overlay(JSON.parse(body) as JobView, items), 'device') : response
}

/** Keeps a job's view as the server just gave it. */
export const keepView = (view: JobView) =>
  store.answers
    .put({ key: `${person()} /api/jobs/${view.row.id}`, at: new Date().toISOString(), body: JSON.stringify(view) })
    .catch(() => undefined)

/** Forgets answers that nobody asked for in a month. */
export const forgetOld = () =>
  store.answers
    .where('at')
    .below(new Date(Date.now() - old).toISOString())
    .delete()
