import Dexie, { type EntityTable } from 'dexie'
import { ref } from 'vue'
import type { Clash, Entry, Schemas } from '@/api/types'
import type { Kept } from './chain'
import { person } from './person'

/** An answer of the server as it was last read, for when there is no signal. */
export interface Answer {
  key: string // person and address
  at: string
  body: string
}

/** Why the server did not take what was sent. */
export interface Refused {
  status: number
  message: string
  fields: Record<string, string>
  clashes: Clash[]
}

/** Something entered on this device that the server does not have yet. Whoever entered it sends it. */
export interface Item {
  seq: number
  person: string
  name?: string // of the person
  job: string
  number: string
  at: string
  kind: 'entries' | 'section' | 'photo'
  what: string // in words
  edit: number // how often it was changed since it was first kept
  entries?: Entry[]
  kept?: Kept // with entries: what is known of their time
  section?: { name: string; revision: number; base: unknown; body: unknown; choices?: Schemas['Choice'][] }
  photo?: { digest: string; blob: Blob }
  refused?: Refused
}

export const store = new Dexie('dogbolt') as Dexie & {
  answers: EntityTable<Answer, 'key'>
  outbox: EntityTable<Item, 'seq'>
  reserve: EntityTable<{ id: number; blob: Blob }, 'id'>
  chains: EntityTable<{ person: string; contact: string; link: string }, 'person'>
}
store.version(1).stores({ answers: 'key, at', outbox: '++seq, person, job', reserve: 'id' })
// What was kept under the names of before: a section was a sheet, the firm's policy its house, its resources its yard.
store.version(2).upgrade(async (tx) => {
  await tx
    .table('outbox')
    .toCollection()
    .modify((i) => {
      if (i.kind !== 'sheet') return
      i.kind = 'section'
      i.section = i.sheet
      delete i.sheet
    })
  const answers = await tx.table<Answer>('answers').toArray()
  await tx.table('answers').bulkDelete(answers.map((a) => a.key))
  await tx.table('answers').bulkPut(answers.map(renamed))
})
store.version(3).stores({ chains: 'person' })
function renamed(a: Answer): Answer {
  if (a.key.endsWith('/api/yard')) return { ...a, key: a.key.replace('/api/yard', '/api/firm/resources') }
  const body = JSON.parse(a.body)
  if (!body.house || !body.row) return a
  const { house, ...rest } = body
  return { ...a, body: JSON.stringify({ ...rest, policy: house }) }
}

// The database is made when the first page opens, not when somebody is about to leave it: Chromium lets the next page
// wait without end for one that was being made. Nor may a page that was left be frozen for the back button, with what it
// was writing: one that holds a lock is not.
const opened = store.open().then(
  () => true,
  () => false,
)
void navigator.locks?.request(`dogbolt-page-${Math.random()}`, () => new Promise(() => undefined))

/** What this browser says of what is kept: it lasts, it may be cleared, nothing can be kept; '' until it says so. */
export const promised = ref<'' | 'lasting' | 'clearable' | 'nothing'>('')
/** Asks this browser what it promises, and to keep what is kept where that is wanted. */
export async function askPromise(wanted = false) {
  const lasts = wanted ? navigator.storage?.persist?.() : navigator.storage?.persisted?.()
  promised.value = !(await opened) ? 'nothing' : (await lasts) ? 'lasting' : 'clearable'
  localStorage.setItem('promised', promised.value)
}
/** What it said last, for what is drawn before it answers. */
export const promisedBefore = localStorage.getItem('promised')
void askPromise()

/** Forgets what the server told this device, once somebody has signed out. */
export async function forget() {
  localStorage.removeItem('carried')
  await globalThis.caches?.delete('photos')
  await store.answers.clear()
}

/** What this person's device has not sent, of a job or at all: what was logged first, then sections, then photos. */
export async function pending(job?: string): Promise<Item[]> {
  if (promised.value === 'nothing') return []
  const mine = await store.outbox.where('person').equals(person()).toArray()
  const list = job ? mine.filter((i) => i.job === job) : mine
  const rank = (i: Item) => ({ entries: 0, section: 1, photo: 2 })[i.kind]
  return list.sort((a, b) => rank(a) - rank(b) || a.seq - b.seq)
}
