import { ref } from 'vue'
import { Refusal } from '@/api/client'
import { person } from './person'
import { pending, promised, store, type Item } from './store'

/** What waits on this device, without pictures, and why it waits. */
export const waiting = ref<Omit<Item, 'photo'>[]>([])
export const looked = ref(false)
/** What waits for other people who used this device: how many things, by name. */
export const othersWaiting = ref<Record<string, number>>({})
/** Whether room runs out on this device. */
export const low = ref(false)

// Room held back, bytes: some five photos. Browsers no longer tell how much room is left, so it is found out by holding
// some: when it cannot be held, or has to be given up, there is little left, and the device says so while a few more
// things still fit. Common practice, no source.
const heldBack = 10e6

/** Refuses what is entered where nothing can be kept. */
export function mustKeep() {
  if (promised.value === 'nothing')
    throw new Refusal(507, 'nothing can be kept on this device, as in a private window: nothing was entered', {})
}

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

/** Keeps things that belong together, instead of another where one is named: all, or none. Returns the place of the last. */
export async function put(items: Omit<Item, 'seq'>[], instead?: number): Promise<number> {
  const add = () =>
    store.transaction('rw', store.outbox, async () => {
      let seq = 0
      for (const i of items) seq = (await store.outbox.add(i as Item)) as number
      if (instead !== undefined) await store.outbox.delete(instead)
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
