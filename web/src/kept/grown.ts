import { ask, client } from '@/api/client'
import type { Entry, JobView, Schemas } from '@/api/types'
import { keepView, serverView } from './fetch'

type Grown = Schemas['Grown']

const withEntries = (log: Entry[], more: Entry[]) => {
  const known = new Set(log.map((e) => e.id))
  return [...log, ...more.filter((e) => !known.has(e.id))].sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
}

/** A list with what is otherwise in place of what it is a new state of. */
function over<T>(list: T[], other: T[] | undefined, key: (x: T) => string): T[] {
  const by = new Map(other?.map((x) => [key(x), x]))
  return by.size ? list.map((x) => by.get(key(x)) ?? x) : list
}

/** A job as the server had it before, with what the server says has changed. */
export function grow(view: JobView, { row, state, added, changed }: Grown): JobView {
  const { whole, findings, steps, ...rest } = changed
  const job = { ...view.job, log: withEntries(view.job.log ?? [], added) }
  return {
    ...view,
    ...rest,
    row,
    state,
    job,
    findings: whole ? findings! : over(view.findings, findings, (f) => `${f.rule} ${f.point ?? ''}`),
    steps: whole ? steps! : over(view.steps, steps, (s) => `${s.id} ${s.point ?? ''}`),
  }
}

/**
 * The job as the server has it, after its log grew. Where this device does not have what the answer is to be put over,
 * the job is opened anew; without an answer to that it is what is here, with the entries.
 */
export async function grown(id: string, answer: Grown): Promise<JobView | undefined> {
  const view = await serverView(id)
  if (view?.state === answer.before) {
    const now = grow(view, answer)
    await keepView(now)
    return now
  }
  if (view)
    await keepView({ ...view, state: '', job: { ...view.job, log: withEntries(view.job.log ?? [], answer.added) } })
  await ask(client.GET('/api/jobs/{job}', { params: { path: { job: id } }, cache: 'no-cache' })).catch(() => undefined)
  return serverView(id)
}
