import type { components } from './schema'

export type Schemas = components['schemas']
/** A job opened; with `device` where this device judged it, with entries that it has not sent. */
export type JobView = Schemas['JobView'] & { device?: { kept: string[] } }
export type Finding = Schemas['Line']
export type Entry = Schemas['Entry']
/** A field that two people changed to different values. */
export interface Clash {
  field: string
  title: string
  base: unknown
  mine: unknown
  theirs: unknown
}
export type Verdict = Finding['verdict']
