import type { Entry, JobView } from '@/api/types'
import { judge, rulesReady } from './judge'
import type { Item } from './store'

/** A view of a job with a log, sections and what follows from them in place of its own. */
function over(view: JobView, job: JobView['job'], kept: Entry[], assessment?: Partial<JobView>): JobView {
  return { ...view, ...assessment, job, device: { kept: kept.map((e) => e.id) } }
}

const inOrder = (log: Entry[]) => log.sort((a, b) => Date.parse(a.at) - Date.parse(b.at))

/**
 * A job as the server has it, with what this device has not sent, judged here by the same rules. Until the rules are
 * loaded it is shown without their judgement; wait says to wait for them.
 */
export async function overlay(view: JobView, items: Item[], wait = true): Promise<JobView> {
  const known = new Set(view.job.log?.map((e) => e.id))
  const entries = items.flatMap((i) => (i.refused ? [] : (i.entries ?? []))).filter((e) => !known.has(e.id))
  const sections = items.flatMap((i) => (i.section ? [i.section] : []))
  if (!entries.length && !sections.length) return view
  const job = { ...view.job, log: inOrder([...(view.job.log ?? []), ...entries]) }
  for (const s of sections) Object.assign(job, { [s.name]: s.body })
  if (!wait && !rulesReady.value) return over(view, job, entries)
  try {
    const { assessment } = await judge({ op: 'assess', job, policy: view.policy })
    return over(view, job, entries, assessment)
  } catch {
    return over(view, job, entries) // what was entered is shown, judged or not
  }
}
