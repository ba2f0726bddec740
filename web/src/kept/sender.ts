import { computed, ref } from 'vue'
import { ask, client, heldBack, Refusal } from '@/api/client'
import type { JobView } from '@/api/types'
import { keepView, signal } from './fetch'
import { grown } from './grown'
import { look, low, reserve } from './outbox'
import { displaced, person, personHeader } from './person'
import { uploadPhoto } from './photos'
import { pending, store, type Item, type Refused } from './store'

/** What became of a thing that was sent: the job as the server has it then, or why it was refused; both where it was kept in part. */
export interface Outcome {
  item: Item
  view?: JobView
  refusal?: Refusal
}
const listeners = new Set<(o: Outcome) => unknown>()

/** Calls f with what becomes of each thing that is sent. Returns how to stop that. */
export function onOutcome(f: (o: Outcome) => unknown): () => void {
  listeners.add(f)
  return () => listeners.delete(f)
}

type Stopped = '' | 'no signal' | 'sign in'

/** What is sent one after the other. Photos have a lane of their own: nothing waits behind them. */
interface Lane {
  takes(i: Item, all: Item[]): boolean
  running?: Promise<void>
  round: number // tries in a row without an answer
  tried: number // when the last one began, ms
}
const names = (i: Item, photos: Item[]) => {
  const body = photos.length ? JSON.stringify(i.section?.body ?? '') : ''
  return photos.some((p) => body.includes(p.photo!.digest))
}
const words: Lane = {
  // A section that names a photo that waits comes after it.
  takes: (i, all) =>
    !i.photo &&
    !names(
      i,
      all.filter((p) => p.photo && p.job === i.job && !p.refused),
    ),
  round: 0,
  tried: 0,
}
const pictures: Lane = { takes: (i) => !!i.photo, round: 0, tried: 0 }
const lanes = [words, pictures]

const why = ref<Map<Lane, Stopped>>(new Map())
const busy = ref(0)
/** Why nothing more is sent now. */
export const stopped = computed<Stopped>(() => why.value.get(words) || why.value.get(pictures) || '')
export const sending = computed(() => busy.value > 0)

// Time for one try, ms, longer after each that was not answered: a line that is dead is left soon, one that is slow gets
// its time. Common practice, no source.
const limits = [12_000, 30_000, 60_000]

async function deliver(i: Item, round: number): Promise<JobView | undefined> {
  const path = { job: i.job }
  const signal = AbortSignal.timeout(limits[Math.min(round, limits.length - 1)])
  const headers = { [personHeader]: i.person } // of who made it, whoever is signed in by now
  if (i.photo) return void (await uploadPhoto(i, headers))
  if (i.entries) {
    const { kept } = i
    const chain = kept && {
      contact: kept.contact,
      before: kept.before,
      link: kept.link,
      sent: new Date(Date.now() + kept.offset).toISOString(),
    }
    const body = { entries: i.entries, kept: chain }
    return grown(i.job, await ask(client.POST('/api/jobs/{job}/log', { params: { path }, body, headers, signal })))
  }
  const s = i.section!
  return ask(
    client.PUT(`/api/jobs/{job}/${s.name}` as '/api/jobs/{job}/site', {
      params: { path },
      headers,
      signal,
      body: {
        revision: s.revision,
        section: s.body as object,
        base: s.base as object,
        choices: s.choices,
        partly: true,
      },
    }),
    s.name,
  )
}

/**
 * Takes away what was sent. A section that was changed while it was on its way stays, and goes on from what was sent; so
 * does one of which the server could not keep a field, with the reason.
 */
const settle = (sent: Item, view?: JobView, refused?: Refused) =>
  store.transaction('rw', store.outbox, async () => {
    const now = await store.outbox.get(sent.seq)
    const changed = now?.edit !== sent.edit
    if (!now?.section || !view || !(changed || refused)) return store.outbox.delete(sent.seq)
    const name = now.section.name as 'site'
    const section = { ...now.section, base: view.job[name] ?? {}, revision: view.revisions[name], choices: undefined }
    await store.outbox.update(sent.seq, { section, refused: changed ? undefined : refused })
  })

/** The server's answer to what is of another person than is signed in. */
const otherPerson = 412
/** Answers that ask to come again: too slow, too early, too much. None of them is about what was sent. */
const later = [408, 425, 429]

// Waits before what was not answered is tried again, s: short ones first, then longer. Common practice, no source.
const waits = [2, 4, 8, 15, 30, 60]

/** Sends what waits, where the last try is long enough ago. */
export function sendAgain() {
  for (const lane of lanes) {
    const wait = why.value.get(lane) ? waits[Math.min(Math.max(lane.round - 1, 0), waits.length - 1)] : 0
    if (Date.now() - lane.tried >= wait * 1000) void run(lane)
  }
}

/** Sends one thing. Answers why sending has to stop, '' where it goes on. */
async function one(item: Item, lane: Lane): Promise<Stopped> {
  try {
    const answer = await deliver(item, lane.round)
    const view = answer && { ...answer, held: undefined }
    const refusal = answer?.held && heldBack(answer.held)
    await settle(item, view, refusal && { ...refusal, message: refusal.message })
    lane.round = 0
    if (view) await keepView(view)
    for (const f of listeners) f({ item, view, refusal })
    return ''
  } catch (e) {
    const refusal = e as Refusal
    if (!(e instanceof Refusal) || refusal.status === 0 || refusal.status >= 500 || later.includes(refusal.status)) {
      signal.value = refusal.status !== 0
      lane.round++
      return 'no signal'
    }
    if (refusal.status === 401) return 'sign in'
    if (refusal.status === otherPerson) {
      displaced.value ||= item.person === person()
      return 'sign in'
    }
    const { status, fields, clashes } = refusal
    // An entry is one line on a page: the names of its fields say nothing there.
    const message = (item.entries && Object.values(fields).join('; ')) || refusal.message
    const now = await store.outbox.get(item.seq)
    // What was changed meanwhile is sent again before anybody is asked.
    if (now?.edit === item.edit) {
      await store.outbox.update(item.seq, { refused: { status, message, fields, clashes } })
      for (const f of listeners) f({ item, refusal })
    }
    return ''
  }
}

/** Sends what waits in a lane, in order. What the server refuses stays, with its reason. */
function run(lane: Lane): Promise<void> {
  lane.running ??= (async () => {
    busy.value++
    lane.tried = Date.now()
    let stop: Stopped = ''
    try {
      const done = new Set<string>()
      while (!stop && !displaced.value) {
        const all = await pending()
        const next = all.find((i) => !i.refused && !done.has(`${i.seq} ${i.edit}`) && lane.takes(i, all))
        if (!next) break
        stop = await one(next, lane)
        if (!stop) done.add(`${next.seq} ${next.edit}`)
      }
    } finally {
      busy.value--
      why.value = new Map(why.value).set(lane, stop)
    }
    await look()
    if (low.value) await reserve()
  })().finally(() => (lane.running = undefined))
  return lane.running
}

/** Sends what waits: what was logged and changed in order, photos beside it. */
export async function send(): Promise<void> {
  await Promise.all(lanes.map(run))
  const left = await pending()
  if (!stopped.value && left.some((i) => i.section && !i.refused && words.takes(i, left))) await run(words)
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
