import { ref } from 'vue'
import { ask, client, fileBody, Refusal } from '@/api/client'
import type { Item } from './store'

// Pieces of a photo, bytes: small enough for 5 kB/s within the time limit, larger where it goes quickly. Common practice,
// no source.
const least = 8 << 10
const most = 1 << 20
const quick = 2_000 // ms
const limit = 60_000 // ms for a piece
let piece = 32 << 10

/** How much of a photo the server has, 0 to 1, by its place in the queue. */
export const shareSent = ref<Record<number, number>>({})

/** Sends a photo in pieces, from where an earlier try was cut. */
export async function uploadPhoto(i: Item, headers: Record<string, string>): Promise<void> {
  const { digest, blob } = i.photo!
  const path = { job: i.job, digest }
  let { have, whole } = await ask(client.GET('/api/jobs/{job}/photos/{digest}/upload', { params: { path }, headers }))
  while (!whole) {
    const data = new File([blob.slice(have, have + piece)], digest)
    const body = fileBody(data, 'application/octet-stream')
    const began = Date.now()
    try {
      const sent = client.PUT('/api/jobs/{job}/photos/{digest}/upload', {
        params: { path, query: { from: have, size: blob.size } },
        ...body,
        headers: { ...body.headers, ...headers },
        signal: AbortSignal.timeout(limit),
      })
      ;({ have, whole } = await ask(sent))
    } catch (e) {
      if ((e as Refusal).status === 0) piece = Math.max(least, piece / 2)
      throw e
    }
    if (Date.now() - began < quick) piece = Math.min(most, piece * 2)
    shareSent.value = { ...shareSent.value, [i.seq]: have / blob.size }
  }
}
