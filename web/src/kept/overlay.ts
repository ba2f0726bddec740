import type { JobView } from '@/api/types'
import { judge } from './judge'
import type { Item } from './store'

/** A job as the server has it, with what this device has not sent, judged here by the same rules. */
export async function overlay(view: JobView, items: Item[]): Promise<JobView> {
  const known = new Set(view.job.log?.map((e) => e.id))
  const entries = items.flatMap((i) => (i.refused ? [] : (i.entries ?? []))).filter((e) => !known.has(e.id))
  const sections = items.flatMap((i) => (i.section ? [i.section] : []))
  if (!entries.length && !sections.length) return view
  const job = {
    ...view.job,
    log: [...(view.job.log ?? []), ...entries].sort((a, b) => Date.parse(a.at) - Date.parse(b.at)),
  }
  for (const s of sections) Object.assign(job, { [s.name]: s.body })
  const device = { kept: entries.map((e) => e.id) }
  try {
    const { assessment } = await judge({ op: 'assess', job, policy: view.policy })
    return { ...view, ...assessment!, job, device }
  } catch {
    return { ...view, job, device } // what was entered is shown, judged or not
  }
}
