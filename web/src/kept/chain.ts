import type { Entry } from '@/api/types'
import { clockOffset, contact } from './clock'
import { person } from './person'
import { store } from './store'

/**
 * What is known of the time of entries that were kept: after which contact with the server, after what else on this
 * device, and how this device's clock stood to the server's then.
 */
export interface Kept {
  contact: string // the server's own mark of the last contact
  before: string // the link before, or the contact where these are the first since
  link: string // SHA-256 of before and the entries
  offset: number // of the server's clock from this device's, ms
}

/** Does something that no other tab may do meanwhile, where the browser can tell. */
export const alone = <T>(what: string, f: () => Promise<T>): Promise<T> =>
  navigator.locks ? (navigator.locks.request(`dogbolt-${what}`, f) as Promise<T>) : f()

/** SHA-256, in hex. */
export async function sha256(data: BufferSource): Promise<string> {
  const sum = await crypto.subtle.digest('SHA-256', data)
  return [...new Uint8Array(sum)].map((b) => b.toString(16).padStart(2, '0')).join('')
}

// The same text as core/job's Entry.Said gives.
const said = (e: Entry) =>
  [e.id, e.kind, Date.parse(e.at), e.point, e.subject, e.value, e.reason, e.replaces]
    .map((v) => v ?? '')
    .concat(e.strokes || [], e.day || [])
    .join('\t')

/**
 * Links entries to what this device kept before, and keeps them with what put does. Without HTTPS there is no digest:
 * their time is then not known to the server.
 */
export const linked = (entries: Entry[], put: (kept?: Kept) => Promise<number>): Promise<number> =>
  alone('chain', async () => {
    if (!crypto.subtle || !contact()) return put()
    const last = await store.chains.get(person())
    const before = last?.contact === contact() ? last.link : contact()
    const link = await sha256(new TextEncoder().encode([before, ...entries.map(said)].join('\n')))
    const seq = await put({ contact: contact(), before, link, offset: clockOffset() })
    await store.chains.put({ person: person(), contact: contact(), link })
    return seq
  })
