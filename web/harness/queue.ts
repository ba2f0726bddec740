import { ask, client, type Entry, type JobView } from '@/api/client'
import { serverNow } from '@/kept/clock'
import { keptView } from '@/kept/fetch'
import { judge, loadRules, rulesReady } from '@/kept/judge'
import { drop } from '@/kept/outbox'
import { overlay } from '@/kept/overlay'
import { belong, displaced, person } from '@/kept/person'
import { enterAnew, keepPhoto, keepSection, press, type Writer } from '@/kept/press'
import { send, sendAgain, tryAgain } from '@/kept/sender'
import { forget, pending, store } from '@/kept/store'

// What a person does with a device, as a test asks for it. Everything goes through the code that the pages use.

let writer: Writer = { name: '', verifier: false }

const open = async (id: string): Promise<JobView> => {
  const path = { job: id }
  const view = (await keptView(id)) ?? (await ask(client.GET('/api/jobs/{job}', { params: { path } })))
  return overlay(view, await pending(id))
}

const device = {
  async signIn(username: string) {
    const me = await ask(client.POST('/api/session', { body: { username, password: 'dogbolt-demo' } }))
    belong(me.id, me.name)
    return me.id
  },
  async signOut() {
    await ask(client.DELETE('/api/session')).catch(() => undefined)
    belong('')
    await forget()
  },
  /** The session as the page takes it up after a restart: from the device, whatever the network does. */
  resume: (name: string, verifier: boolean) => void (writer = { name, verifier }),
  person,
  ready: () => rulesReady.value,
  now: () => serverNow().toISOString(),
  displaced: () => displaced.value,

  async press(id: string, entries: Partial<Entry>[]) {
    return (await press(await open(id), writer, entries)).seq
  },
  async photo(id: string, bytes: number[]) {
    return keepPhoto(await open(id), new Blob([new Uint8Array(bytes)], { type: 'image/jpeg' }))
  },
  /** Changes one field of the site, as the survey's page does. */
  async site(id: string, field: string, value: string) {
    const view = await open(id)
    const base = view.job.site ?? {}
    const section = { name: 'site', revision: view.revisions.site ?? 0, base, body: { ...base, [field]: value } }
    await keepSection(view, section)
  },

  /** Everything that waits here, of anybody. */
  async kept() {
    return (await store.outbox.toArray()).map(({ photo, ...i }) => ({ ...i, photo: photo?.digest }))
  },
  drop,
  anew: async (seq: number, job: string) => (await enterAnew({ seq, job }, writer)).seq,
  tryAgain,
  sendAgain,
  send,
  /** What follows from the job as the server has it now, by the rules on this device. */
  async judged(id: string) {
    const path = { job: id }
    await ask(client.GET('/api/jobs/{job}', { params: { path }, cache: 'no-cache' })) // it is on the device then
    // Without what this device has not sent.
    const view = (await (await fetch(`/api/jobs/${id}`)).json()) as JobView
    const { assessment } = await judge({ op: 'assess', job: view.job, policy: view.policy })
    return { server: view.findings, device: assessment!.findings }
  },
  async clear() {
    await store.outbox.clear()
    await store.answers.clear()
  },
}
export type Device = typeof device
declare global {
  var device: Device
}
globalThis.device = device
loadRules()
// As the pages do, once somebody is signed in; a test does not take the waits that are for people.
window.setInterval(() => person() && sendAgain(), 250)
