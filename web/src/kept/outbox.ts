import { ref } from 'vue'
import { ask, client, fileBody, Refusal } from '@/api/client'
import type { Entry, JobView } from '@/api/types'
import { keepView, signal } from './fetch'
import { join } from './join'
import { displaced, person, personHeader, personName } from './person'
import { pending, store, type Item } from './store'

/** What waits on this device, without pictures, and why it waits. */
export const waiting = ref<Omit<Item, 'photo'>[]>([])
export const looked = ref(false)
/** What waits for other people who used this device: how many things, by name. */
export const othersWaiting = ref<Record<string, number>>({})
export const stopped = ref<'' | 'no signal' | 'sign in'>('')
export const sending = ref(false)
/** Whether room runs out on this device. */
export const low = ref(false)

// Room held back, bytes: some five photos. Browsers no longer tell how much room is left, so it is found out by holding
// some: when it cannot be held, or has to be given up, there is little left, and the device says so while a few more
// things still fit. Common practice, no source.
const heldBack = 10e6

const isFull = (e: unknown) =>
  (e as Error).name === 'QuotaExceededError' || (e as { inner?: Error }).inner?.name === 'QuotaExceededError'

/** Holds some room back, and says whether that could be done. */
export async function reserve() {
  try {
    if (!(await store.reserve.count())) await store.reserve.put({ id: 1, blob: new Blob([new Uint8Array(heldBack)]) })
    low.value = false
  } catch (e) {
    if (!isFull(e)) throw e
    low.value = true
  }
}

type Outcome = { view?: JobView; refusal?: Refusal }
const outcomes = new Map<number, (o: Outcome) => void>()

/** Reads again what waits. */
export async function look() {
  waiting.value = (await pending()).map((i) => ({ ...i, photo: undefined }))
  const others: Record<string, number> = {}
  for (const i of await store.outbox.where('person').notEqual(person()).toArray()) {
    const name = i.name || 'somebody else'
    others[name] = (others[name] ?? 0) + 1
  }
  othersWaiting.value = others
  looked.value = true
}

/** Keeps things that belong together: all of them, or none. Returns the place of the last. */
async function put(...items: Omit<Item, 'seq'>[]): Promise<number> {
  const add = () =>
    store.transaction('rw', store.outbox, async () => {
      let seq = 0
      for (const i of items) seq = (await store.outbox.add(i as Item)) as number
      return seq
    })
  try {
    return await add()
  } catch (e) {
    if (!isFull(e)) throw e
  }
  // What was held back is for this: the thing is kept, and the device says that the next may not be.
  low.value = true
  await store.reserve.clear()
  try {
    return await add()
  } catch (e) {
    if (!isFull(e)) throw e
    throw new Refusal(507, 'this device is full: nothing was kept. Send what waits, or free some room', {})
  }
}

async function deliver(i: Item): Promise<JobView | undefined> {
  const path = { job: i.job }
  const headers = { [personHeader]: i.person } // of who made it, whoever is signed in by now
  if (i.photo) {
    const file = fileBody(i.photo.blob as File, 'image/jpeg')
    const whole = { ...file, headers: { ...file.headers, ...headers } }
    await ask(client.POST('/api/jobs/{job}/photos', { params: { path }, ...whole }))
    return undefined
  }
  if (i.entries) {
    const body = { entries: i.entries }
    return ask(client.POST('/api/jobs/{job}/entries', { params: { path }, body, headers }))
  }
  const s = i.section!
  return ask(
    client.PUT(`/api/jobs/{job}/${s.name}` as '/api/jobs/{job}/site', {
      params: { path },
      headers,
      body: { revision: s.revision, section: s.body as object, base: s.base as object, choices: s.choices },
    }),
    s.name,
  )
}

/** Takes away what was sent. A section that was changed while it was on its way stays, and goes on from what was sent. */
const settle = (sent: Item, view?: JobView) =>
  store.transaction('rw', store.outbox, async () => {
    const now = await store.outbox.get(sent.seq)
    if (!now?.section || now.edit === sent.edit || !view) return store.outbox.delete(sent.seq)
    const name = now.section.name as 'site'
    const section = { ...now.section, base: view.job[name] ?? {}, revision: view.revisions[name] }
    await store.outbox.update(sent.seq, { section })
  })

/** The server's answer to what is of another person than is signed in. */
const otherPerson = 412
/** Answers that ask to come again: too slow, too early, too much. None of them is about what was sent. */
const later = [408, 425, 429]

// Waits before what was not answered is tried again, s: short ones first, then longer. Common practice, no source.
const waits = [2, 4, 8, 15, 30, 60]
let round = 0 // tries in a row without an answer
let tried = 0

/** Sends what waits, where the last try is long enough ago. */
export function sendAgain() {
  const wait = stopped.value ? waits[Math.min(Math.max(round - 1, 0), waits.length - 1)] : 0
  if (Date.now() - tried >= wait * 1000) void send()
}

/** Sends one thing. False where sending has to stop. */
async function one(i: Item): Promise<boolean> {
  const say = outcomes.get(i.seq)
  try {
    const view = await deliver(i)
    await settle(i, view)
    round = 0
    if (view) await keepView(view)
    say?.({ view })
    return true
  } catch (e) {
    const refusal = e as Refusal
    if (refusal.status === 0 || refusal.status >= 500 || later.includes(refusal.status)) {
      signal.value = refusal.status !== 0
      round++
      stopped.value = 'no signal'
      return false
    }
    if (refusal.status === 401) {
      stopped.value = 'sign in'
      return false
    }
    if (refusal.status === otherPerson) {
      displaced.value ||= i.person === person()
      stopped.value = 'sign in'
      return false
    }
    const { status, message, fields, clashes } = refusal
    const now = await store.outbox.get(i.seq)
    // What was changed meanwhile is sent again before anybody is asked.
    if (now?.edit === i.edit) await store.outbox.update(i.seq, { refused: { status, message, fields, clashes } })
    say?.({ refusal })
    return true
  }
}

let running: Promise<void> | undefined

/** Sends what waits, in order. What the server refuses stays, with its reason. */
export function send(): Promise<void> {
  running ??= (async () => {
    sending.value = true
    stopped.value = ''
    tried = Date.now()
    try {
      const done = new Set<string>()
      for (;;) {
        const next = (await pending()).find((i) => !i.refused && !done.has(`${i.seq} ${i.edit}`))
        if (!next || displaced.value || !(await one(next))) break
        done.add(`${next.seq} ${next.edit}`)
      }
    } finally {
      sending.value = false
    }
    await look()
    if (low.value) await reserve()
  })().finally(() => (running = undefined))
  return running
}

/** Waits for what becomes of a thing: sent, refused, or kept for later. What comes after it is not waited for. */
async function outcome(seq: number): Promise<Outcome> {
  let known = false
  const said = new Promise<Outcome>((done) => outcomes.set(seq, (o) => done(((known = true), o))))
  const through = async (): Promise<Outcome> => {
    await send()
    // A run that began before may have passed it by.
    if (!known && !stopped.value) await send()
    return {}
  }
  const result = await Promise.race([said, through()])
  outcomes.delete(seq)
  return result
}

const begin = (view: JobView, what: string) => ({
  what,
  edit: 0,
  person: person(),
  name: personName(),
  job: view.row.id,
  number: view.row.number,
  at: new Date().toISOString(),
})

/** What an entry says, in words. */
function words(view: JobView, e: Entry): string {
  const { steps, terminals, sequences } = view
  const test = Object.values(sequences)
    .flatMap((s) => s.tests)
    .find((t) => t.id === e.subject)
  const title =
    (e.kind === 'step' && steps.find((s) => s.id === e.subject)?.title) ||
    (e.kind === 'torque' && terminals.find((t) => t.id === e.subject)?.title) ||
    (e.kind === 'photo' && `photo, ${steps.find((s) => s.id === e.subject)?.title ?? ''}`) ||
    test?.title ||
    [e.kind, e.subject].filter(Boolean).join(' ')
  return e.kind === 'photo' || !e.value ? title : `${title}: ${e.value} ${e.unit ?? ''}`.trim()
}

/** Keeps entries and sends them, with the picture that they name. Without a view in what comes back they are kept. */
export async function keepEntries(
  view: JobView,
  entries: Entry[],
  photo?: Item['photo'],
): Promise<{ seq: number; view?: JobView }> {
  const what = entries.map((e) => words(view, e)).join(', ')
  const said: Omit<Item, 'seq'> = { ...begin(view, what), kind: 'entries', entries }
  const picture: Omit<Item, 'seq'>[] = photo ? [{ ...begin(view, 'a photo'), kind: 'photo', photo }] : []
  const seq = await put(...picture, said)
  const o = await outcome(seq)
  if (o.refusal) {
    await drop(seq)
    throw o.refusal
  }
  return { seq, view: o.view }
}

/** Does something that no other tab may do meanwhile, where the browser can tell. */
const alone = <T>(f: () => Promise<T>): Promise<T> =>
  navigator.locks ? (navigator.locks.request('dogbolt-section', f) as Promise<T>) : f()

/**
 * Keeps a section as it was changed and sends it. What was kept of it before goes on from where it began; where another
 * tab kept it since, the two are joined field by field, and the answer has what came of it. last is what this tab kept
 * of it before, if anything.
 */
export async function keepSection(
  view: JobView,
  section: NonNullable<Item['section']>,
  last?: unknown,
): Promise<Outcome & { joined?: unknown }> {
  let joined: unknown
  const goesOn = async () => {
    const before = (await pending(view.row.id)).find((i) => i.section?.name === section.name)
    if (!before?.section) return 0
    const theirs = before.section.body
    const body = join(last ?? section.base, theirs, section.body)
    if (JSON.stringify(body) !== JSON.stringify(section.body)) joined = body
    await store.outbox.update(before.seq, {
      section: { ...before.section, body, choices: section.choices },
      refused: undefined,
      edit: before.edit + 1,
      at: new Date().toISOString(),
    })
    return before.seq
  }
  const seq = await alone(
    async () =>
      (await store.transaction('rw', store.outbox, goesOn)) ||
      put({ ...begin(view, `the ${section.name}`), kind: 'section', section }),
  )
  return { ...(await outcome(seq)), joined }
}

/** The digest of a picture, by which it is known from the beginning. */
export async function digestOf(file: Blob): Promise<string> {
  if (!crypto.subtle) throw new Refusal(0, 'photos need HTTPS, or the machine itself: this browser gives no digest', {})
  const sum = await crypto.subtle.digest('SHA-256', await file.arrayBuffer())
  return [...new Uint8Array(sum)].map((b) => b.toString(16).padStart(2, '0')).join('')
}

/** Keeps a photo and sends it. */
export async function keepPhoto(view: JobView, file: Blob): Promise<string> {
  const digest = await digestOf(file)
  const seq = await put({ ...begin(view, 'a photo'), kind: 'photo', photo: { digest, blob: file } })
  const o = await outcome(seq)
  if (o.refusal) {
    await drop(seq)
    throw o.refusal
  }
  return digest
}

/** Sends again what was refused: one thing, or all of a job that was refused for a reason that has gone. */
export async function tryAgain(which: number | { job: string; status: number }) {
  for (const i of await pending()) {
    const is =
      typeof which === 'number'
        ? i.seq === which
        : i.kind === 'entries' && i.job === which.job && i.refused?.status === which.status
    if (is) await store.outbox.update(i.seq, { refused: undefined, edit: i.edit + 1 })
  }
  await send()
}

/** Takes something back that was not sent, with the pictures that it alone names. */
export async function drop(seq: number) {
  const item = await store.outbox.get(seq)
  const named = item?.entries?.flatMap((e) => (e.kind === 'photo' && e.value ? [e.value] : [])) ?? []
  for (const i of await pending(item?.job))
    if (i.photo && named.includes(i.photo.digest)) await store.outbox.delete(i.seq)
  await store.outbox.delete(seq)
  await look()
}

/** Takes back what was kept of a section. */
export async function dropSection(job: string, name: string) {
  for (const i of await pending(job)) if (i.section?.name === name) await drop(i.seq)
}
