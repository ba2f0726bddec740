import type { Schemas } from '@/api/client'

type Status = Schemas['Status']

/** What a step waits for, in words: other steps, and papers. */
export const waitsFor = (s: Status) => [...(s.waitsFor ?? []), ...(s.papers ?? []).map((p) => p.title)]

const ready = (s: Status) => !s.done && !waitsFor(s).length

/** The step whose turn it is: one that waits for nothing, those that may be left out last. */
export const nextStep = (steps: Status[]) => steps.find((s) => ready(s) && !s.optional) ?? steps.find(ready)
