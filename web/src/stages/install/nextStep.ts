import type { Schemas } from '@/api/client'

type Status = Schemas['Status']
const ready = (s: Status) => !s.done && !s.waitsFor?.length

/** The step whose turn it is: one that waits for nothing, those that may be left out last. */
export const nextStep = (steps: Status[]) => steps.find((s) => ready(s) && !s.optional) ?? steps.find(ready)
