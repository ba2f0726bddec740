import { ref } from 'vue'
import { ask, client, fileBody, Refusal } from '@/api/client'
import type { Entry, JobView, Schemas } from '@/api/types'
import { keepView, signal } from './fetch'
import { pending, person, store, type Item } from './store'

/** What waits on this device, without pictures, and why it waits. */
export const waiting = ref<Omit<Item, 'photo'>[]>([])
export const looked = ref(false)
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
  looked.value = true
}

async function put(item: Omit<Item, 'seq'>): Promise<number> {
  try {
    return (await store.outbox.add(item as Item)) as number
  } catch (e) {
    if (!isFull(e)) throw e
  }
  // What was held back is for this: the thing is kept, and the device says that the next may not be.
  low.value = true
  await store.reserve.clear()
  try {
    return (await store.outbox.add(item as Item)) as number
  } catch (e) {
    if (!isFull(e)) throw e
    throw new Refusal(507, 'this device is full: nothing was kept. Send what waits, or free some room', {})
  }
}

async function deliver(i: Item): Promise<JobView | undefined> {
  const path = { job: i.job }
  if (i.photo) {
    const body = fileBody(i.photo.blob as File, 'image/jpeg')
    await ask(client.POST('/api/jobs/{job}/photos', { params: { path }, ...body }))
    return undefined
  }
  if (i.entries) return ask(client.POST('/api/jobs/{job}/entries', { params: { path }, body: { entries: i.entries } }))
  const s = i.section!
  return ask(
    client.PUT(`/api/jobs/{job}/${s.name}` as '/api/jobs/{job}/site', {
      params: { path },
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

/** Sends one thing. False where sending has to stop. */
async function one(i: Item): Promise<boolean> {
  const say = outcomes.get(i.seq)
  try {
    const view = await deliver(i)
    await settle(i, view)
    if (view) await keepView(view)
    say?.({ view })
    return true
  } catch (e) {
    const refusal = e as Refusal
    if (refusal.status === 0 || refusal.status >= 500) {
      signal.value = refusal.status !== 0
      stopped.value = 'no signal'
      return false
    }
    if (refusal.status === 401) {
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
    try {
      const done = new Set<string>()
      for (;;) {
        const next = (await pending()).find((i) => !i.refused && !done.has(`${i.seq} ${i.edit}`))
        if (!next || !(await one(next))) break
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

/** Waits for what becomes of a thing: sent, refused, or kept for later. */
async function outcome(seq: number): Promise<Outcome> {
  let result: Outcome = {}
  outcomes.set(seq, (o) => (result = o))
  // A run that began before may have passed it by.
  await send()
  if (!result.view && !result.refusal && !stopped.value) await send()
  outcomes.delete(seq)
  return result
}

const begin = (view: JobView, what: string) => ({
  what,
  edit: 0,
  person: person(),
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

/** Keeps entries and sends them. Without a view in what comes back they are kept. */
export async function keepEntries(view: JobView, entries: Entry[]): Promise<{ seq: number; view?: JobView }> {
  const seq = await put({ ...begin(view, entries.map((e) => words(view, e)).join(', ')), kind: 'entries', entries })
  const o = await outcome(seq)
  if (o.refusal) {
    await drop(seq)
    throw o.refusal
  }
  return { seq, view: o.view }
}

/** Keeps a section as it was changed and sends it; what was kept of it before is replaced, but not what it began from. */
export async function keepSection(
  view: JobView,
  name: string,
  revision: number,
  base: unknown,
  body: unknown,
  choices?: Schemas['Choice'][],
): Promise<Outcome> {
  const before = (await pending(view.row.id)).find((i) => i.section?.name === name)
  let seq = before?.seq
  if (before) {
    const section = { ...before.section!, body, choices }
    await store.outbox.update(before.seq, {
      section,
      refused: undefined,
      edit: before.edit + 1,
      at: new Date().toISOString(),
    })
  } else {
    seq = await put({
      ...begin(view, `the ${name}`),
      kind: 'section',
      section: { name, revision, base, body, choices },
    })
  }
  return outcome(seq!)
}

/** Keeps a photo and sends it. It is known by the digest of the file from the beginning. */
export async function keepPhoto(view: JobView, file: Blob): Promise<string> {
  if (!crypto.subtle) throw new Refusal(0, 'photos need HTTPS, or the machine itself: this browser gives no digest', {})
  const sum = await crypto.subtle.digest('SHA-256', await file.arrayBuffer())
  const digest = [...new Uint8Array(sum)].map((b) => b.toString(16).padStart(2, '0')).join('')
  const seq = await put({ ...begin(view, 'a photo'), kind: 'photo', photo: { digest, blob: file } })
  const o = await outcome(seq)
  if (o.refusal) {
    await drop(seq)
    throw o.refusal
  }
  return digest
}

/** Takes something back that was not sent. */
export async function drop(seq: number) {
  await store.outbox.delete(seq)
  await look()
}

/** Takes back what was kept of a section. */
export async function dropSection(job: string, name: string) {
  for (const i of await pending(job)) if (i.section?.name === name) await drop(i.seq)
}
