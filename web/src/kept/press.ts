import { ask, client, Refusal } from '@/api/client'
import type { Entry, JobView } from '@/api/types'
import { alone, linked, sha256 } from './chain'
import { serverNow } from './clock'
import { keptView } from './fetch'
import { join } from './join'
import { judge, rulesReady } from './judge'
import { look, mustKeep, put } from './outbox'
import { overlay } from './overlay'
import { person, personName } from './person'
import { send } from './sender'
import { pending, store, type Item } from './store'

// What a press does, in order: it is judged on this device, kept, shown as kept, and sent behind the page's back. From
// then on a thing is kept until the server has it, or its author puts it away:
//
//	made → kept → sent                  the server has it
//	        ↑↓
//	      refused → put away, or entered anew (another entry, of now)

/** Who writes: the rules ask whether it is a verifier. */
export interface Writer {
  name: string
  verifier: boolean
}

/** What was kept: its place in the queue, its entries, and the job with it. */
export interface Pressed {
  seq: number
  ids: string[]
  shown: JobView
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
export function entryWords(view: JobView, e: Entry): string {
  const { steps, terminals, sequences } = view
  if (e.kind === 'takeback') {
    const was = view.job.log?.find((x) => x.id === e.replaces)
    return `taken back: ${was ? entryWords(view, was) : e.subject}`
  }
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

/**
 * Keeps what was entered in a job, with the picture that it names, and sends it meanwhile. Answers with the job as it
 * is with it. What the rules on this device refuse is not kept: a Refusal says why. Until they are loaded, what is
 * entered is kept all the same, and the server judges it. instead names what it takes the place of, if anything.
 */
export async function press(
  view: JobView,
  writer: Writer,
  said: Partial<Entry>[],
  photo?: Item['photo'],
  instead?: number,
): Promise<Pressed> {
  mustKeep()
  const at = serverNow().toISOString()
  // In the form that the server keeps text in: what is known of an entry's time hangs on its words.
  const typed = JSON.parse(JSON.stringify(said).normalize('NFC')) as Partial<Entry>[]
  let entries = typed.map((e) => ({ id: crypto.randomUUID(), at, by: writer.name, ...e }) as Entry)
  let shown: JobView | undefined
  const { job, policy } = view
  const judged = rulesReady.value && (await judge({ op: 'add', job, policy, writer, entries }).catch(() => undefined))
  if (judged) {
    const ids = new Set(entries.map((e) => e.id))
    const { errors, log, assessment } = judged
    if (errors?.length) throw new Refusal(422, errors.map((e) => e.message).join('; '), {})
    entries = log!.filter((e) => ids.has(e.id)) // with the calibration of the instruments, as the rules filled it in
    const device = { kept: [...(view.device?.kept ?? []), ...ids] }
    shown = { ...view, ...assessment, job: { ...job, log }, device }
  }
  const what = entries.map((e) => entryWords(view, e)).join(', ')
  const pictures: Omit<Item, 'seq'>[] = photo ? [{ ...begin(view, 'a photo'), kind: 'photo', photo }] : []
  const seq = await linked(entries, (kept) =>
    put([...pictures, { ...begin(view, what), kind: 'entries', entries, kept }], instead),
  )
  void look()
  void send()
  return { seq, ids: entries.map((e) => e.id), shown: shown ?? (await overlay(view, await pending(view.row.id))) }
}

/** Enters anew, as of now, what was refused: where its time could not be so, or its turn had not come. */
export async function enterAnew(i: Pick<Item, 'seq' | 'job'>, writer: Writer): Promise<Pressed> {
  const item = await store.outbox.get(i.seq)
  const path = { job: i.job }
  const view = (await keptView(i.job)) ?? (await ask(client.GET('/api/jobs/{job}', { params: { path } })))
  const said = item!.entries!.map((e) => ({ ...e, id: undefined, at: undefined, by: undefined }))
  return press(view, writer, said, undefined, i.seq) // the pictures stay: the new entry names them
}

/**
 * Keeps a section as it was changed and sends it. What was kept of it before goes on from where it began; where another
 * tab kept it since, the two are joined field by field, and the answer has what came of it. last is what this tab kept
 * of it before, if anything.
 */
export async function keepSection(
  view: JobView,
  section: NonNullable<Item['section']>,
  last?: unknown,
): Promise<{ joined?: unknown; shown: JobView }> {
  mustKeep()
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
  await alone(
    'section',
    async () =>
      (await store.transaction('rw', store.outbox, goesOn)) ||
      put([{ ...begin(view, `the ${section.name}`), kind: 'section', section }]),
  )
  await look()
  const shown = await overlay(view, await pending(view.row.id))
  void send()
  return { joined, shown }
}

/** The digest of a picture, by which it is known from the beginning. */
export async function digestOf(file: Blob): Promise<string> {
  if (!crypto.subtle) throw new Refusal(0, 'photos need HTTPS, or the machine itself: this browser gives no digest', {})
  return sha256(await file.arrayBuffer())
}

/** Keeps a photo and sends it. */
export async function keepPhoto(view: JobView, file: Blob): Promise<string> {
  mustKeep()
  const digest = await digestOf(file)
  await put([{ ...begin(view, 'a photo'), kind: 'photo', photo: { digest, blob: file } }])
  await look()
  void send()
  return digest
}
