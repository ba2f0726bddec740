import { partly } from '@/api/client'
import type { Entry, JobView } from '@/api/types'
import { judge, rulesReady } from './judge'
import type { Item } from './store'

/** A view of a job with a log, sections and what follows from them in place of its own. */
function over(view: JobView, job: JobView['job'], kept: Entry[], assessment?: Partial<JobView>): JobView {
  return { ...view, ...assessment, job, device: { kept: kept.map((e) => e.id) } }
}

/**
 * A job as the server has it, with what this device has not sent, judged here by the same rules; without their judgement
 * until they are loaded.
 */
export async function overlay(view: JobView, items: Item[]): Promise<JobView> {
  const known = new Set(view.job.log?.map((e) => e.id))
  const entries = items.flatMap((i) => (i.refused ? [] : (i.entries ?? []))).filter((e) => !known.has(e.id))
  const sections = items.flatMap((i) => (i.section ? [{ ...i.section, held: i.refused?.status === partly }] : []))
  if (!entries.length && !sections.length) return view
  const job = {
    ...view.job,
    log: [...(view.job.log ?? []), ...entries].sort((a, b) => Date.parse(a.at) - Date.parse(b.at)),
  }
  // A field that could not be kept is shown as it was typed, and bears no judgement.
  const judged = { ...job }
  for (const s of sections) {
    Object.assign(job, { [s.name]: s.body })
    if (!s.held) Object.assign(judged, { [s.name]: s.body })
  }
  if (!entries.length && sections.every((s) => s.held)) return { ...view, job }
  if (!rulesReady.value) return over(view, job, entries)
  try {
    const { assessment } = await judge({ op: 'assess', job: judged, policy: view.policy })
    return over(view, job, entries, assessment)
  } catch {
    return over(view, job, entries) // what was entered is shown, judged or not
  }
}
