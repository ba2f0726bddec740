import { useOnline } from '@vueuse/core'
import { ref, watch } from 'vue'
import type { JobView, Schemas } from '@/api/types'
import { within } from '@/base'
import { learn } from './clock'
import { judge, rulesReady } from './judge'
import { overlay } from './overlay'
import { closed, displaced, person, personHeader } from './person'
import { pending, store } from './store'

/** Whether the server answered when it was last asked. */
export const signal = ref(navigator.onLine)
/** What the device says of its line; whether the server is reached is known from its answers. */
export const online = useOnline()
watch(online, (is) => (signal.value = is), { flush: 'sync' })

const kept =
  /^\/api\/(session|mine|near-misses|chargers|firm\/resources|jobs(\/[^/]+(\/(visit|day-sheet|papers|as-built|points\/[^/]+\/(setting|site|route)))?)?)$/
const patience = 8_000 // ms, before what is kept has to do
const limit = 60_000 // ms, before a request counts as not answered. Common practice, no source.
const slow = 300_000 // ms, for files: a photo of 600 kB at 2 kB/s
const old = 30 * 24 * 3600_000 // ms, after which an answer is forgotten

const anew = 60_000 // ms, after which a page that asks again is opened from the device first
const just = 10_000 // ms for which an answer that came behind a page's back is given to it

/** An answer as it was kept; nothing where this browser keeps nothing. */
const keptAnswer = (key: string) => store.answers.get(key).catch(() => undefined)
const keyOf = (address: URL) => `${person()} ${address.pathname}${address.search}`

const json = (body: unknown, at: string) =>
  new Response(typeof body === 'string' ? body : JSON.stringify(body), {
    headers: { 'Content-Type': 'application/json', 'X-Kept': at },
  })

/** The address that the data of an answer came from, where this device answered. */
const origins = new WeakMap<object, string>()
export const originOf = (data: unknown) => (data && typeof data === 'object' ? origins.get(data) : undefined)
/** Notes where data came from, so that they are asked for again when the server's answer is there. */
export function noteOrigin(data: unknown, response: Response) {
  const address = response.headers.get('X-Address')
  if (!address || !data || typeof data !== 'object') return
  origins.set(data, address)
  // The server was quicker than the page.
  if (arrivals.has(`${person()} ${address}`)) window.setTimeout(() => tell(address))
}

const listeners = new Set<(address: string) => unknown>()
/** Calls f with the address of each answer that came after this device had answered by itself. */
export const onArrived = (f: (address: string) => unknown) => listeners.add(f)
function tell(address: string) {
  for (const f of listeners) f(address)
}

/** Reads a job as the server had it when it was last heard. */
export async function serverView(job: string): Promise<JobView | undefined> {
  const answer = await keptAnswer(`${person()} /api/jobs/${job}`)
  return answer && (JSON.parse(answer.body) as JobView)
}
/** Reads a job with what was not sent, as it was kept. */
export async function keptView(job: string): Promise<JobView | undefined> {
  const view = await serverView(job)
  return view && overlay(view, await pending(job))
}

/** What the device can answer by itself: at once, or when its rules are loaded too. */
async function ownAnswer(address: URL, atOnce = false): Promise<Response | undefined> {
  const [, , , job, kind, point] = address.pathname.split('/')
  if (address.pathname.startsWith('/api/jobs/') && job) {
    const view = await keptView(job)
    if (!view) return undefined
    const ask = { job: view.job, policy: view.policy }
    if (!kind) return json(view, 'device')
    const byRules = kind === 'as-built' || address.pathname.endsWith('/setting')
    if (byRules && atOnce && !rulesReady.value) return undefined
    if (kind === 'as-built') return json((await judge({ op: 'built', ...ask })).built, 'device')
    if (kind === 'points' && address.pathname.endsWith('/setting'))
      return json((await judge({ op: 'setting', point: decodeURIComponent(point), ...ask })).setting, 'device')
  }
  const answer = await keptAnswer(keyOf(address))
  if (answer) return json(answer.body, answer.at)
  if (address.pathname !== '/api/jobs') return undefined
  // A list that was not asked for before: the jobs that are carried.
  const mine = await keptAnswer(`${person()} /api/mine`)
  if (!mine) return undefined
  const jobs = JSON.parse(mine.body) as JobView['row'][]
  return json({ jobs, total: jobs.length, more: false, next: '' }, mine.at)
}

/**
 * fetch that keeps what it reads, and answers with it while there is no signal. What this device has not sent is part
 * of a job either way.
 */
export async function carriedFetch(request: Request): Promise<Response> {
  const address = within(request.url)
  // Signing in is nobody's yet; all else is this tab's, or of who made what is sent.
  const signing = address.pathname === '/api/session' || address.pathname === '/api/setup'
  if (person() && !signing && !request.headers.has(personHeader)) request.headers.set(personHeader, person())
  const asked = Date.now()
  const response = await carried(request, address)
  if (!response.headers.has('X-Kept')) learn(response, asked)
  heed(response, request.headers.get(personHeader))
  return response
}

/** Takes up what an answer says about whose it is. */
function heed(response: Response, of: string | null) {
  if (!of || of !== person()) return
  if (response.status === 412) displaced.value = true
  if (response.headers.get('Dogbolt-Account') === 'closed') closed.value = true
}

/** The session as the server last said it, where somebody is signed in on this device. */
export const keptSession = async (): Promise<Schemas['Me'] | undefined> => {
  const answer = person() && (await keptAnswer(`${person()} /api/session`))
  return answer ? JSON.parse(answer.body) : undefined
}

async function carried(request: Request, address: URL): Promise<Response> {
  if (request.method !== 'GET' || !kept.test(address.pathname)) {
    const type = request.headers.get('Content-Type')
    const time = AbortSignal.timeout(type && !type.includes('json') ? slow : limit)
    const response = await fetch(request, { signal: AbortSignal.any([request.signal, time]) })
    signal.value = true
    return response
  }
  const key = keyOf(address)
  const late = arrivals.get(key)
  arrivals.delete(key) // it is told once
  if (late && Date.now() - late.at < just) return late.response
  // A page that is opened shows what is on this device at once, and what the server says when it comes.
  const before = lastAsked.get(key) ?? 0
  lastAsked.set(key, Date.now())
  if (person() && request.cache !== 'no-cache' && Date.now() - before > anew) {
    const own = await ownAnswer(address, true).catch(() => undefined)
    if (own) {
      own.headers.set('X-Address', address.pathname + address.search)
      void behind(request, address, key, own.clone())
      return own
    }
  }
  return fromServer(request, address, key)
}

/** When each address was last asked, ms, and what came for it after the device had answered. */
const lastAsked = new Map<string, number>()
const arrivals = new Map<string, { at: number; response: Response }>()

/** Asks the server behind the back of a page that the device has answered, and tells it of what is otherwise. */
async function behind(request: Request, address: URL, key: string, shown: Response) {
  let response: Response
  try {
    const asked = Date.now()
    response = await fromServer(request, address, key, false)
    if (!response.headers.has('X-Kept')) learn(response, asked)
    heed(response, person())
  } catch {
    return // the page has what is here
  }
  if (response.ok && (await response.clone().text()) === (await shown.text())) return
  arrivals.set(key, { at: Date.now(), response })
  tell(address.pathname + address.search)
}

async function fromServer(request: Request, address: URL, key: string, own = true): Promise<Response> {
  let response: Response
  let body = ''
  const asked = new Date().toISOString()
  try {
    const has = own && person() && (await keptAnswer(key))
    const time = AbortSignal.timeout(has ? patience : limit)
    response = await fetch(request, { signal: AbortSignal.any([request.signal, time]) })
    // An answer counts when it is here to its end, and is the program's own.
    body = response.ok ? await response.clone().text() : ''
    if (response.ok && !response.headers.get('Content-Type')?.includes('json')) throw new Error('not an answer')
    signal.value = true
  } catch (e) {
    signal.value = false
    const here = own && person() ? await ownAnswer(address) : undefined
    if (here) return here
    throw e
  }
  // A session that has ended shuts no page of a job: what is entered waits for its author.
  const kept =
    own && response.status === 401 && address.pathname !== '/api/session' ? await ownAnswer(address) : undefined
  if (kept && !closed.value) return kept
  if (!response.ok || !(person() || address.pathname === '/api/session')) return response
  // An answer that was overtaken, by what this device sent or by a later one, says nothing any more.
  const last = await keptAnswer(key)
  const newer = last && last.at > asked && last.at <= new Date().toISOString()
  const instead = newer && (await ownAnswer(address))
  if (instead) return instead
  // A full disk loses nothing here: the answer only is not kept.
  await store.answers.put({ key, at: asked, body }).catch(() => undefined)
  const job = /^\/api\/jobs\/([^/]+)$/.exec(address.pathname)?.[1]
  const items = job ? await pending(job).catch(() => []) : []
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
