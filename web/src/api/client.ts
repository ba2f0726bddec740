import createClient from 'openapi-fetch'
import { base } from '@/base'
import { carriedFetch, noteOrigin } from '@/kept/fetch'
import type { paths } from './schema'
import type { Clash, Schemas } from './types'

export type * from './types'

export const client = createClient<paths>({ baseUrl: `${base}/`, fetch: carriedFetch })

/** What the server answered instead of what was asked, field by field. */
export class Refusal extends Error {
  constructor(
    public status: number,
    message: string,
    public fields: Record<string, string>,
    public clashes: Clash[] = [],
  ) {
    super(message)
  }
}

/** Why fields of a section were held back while the rest of it was kept. */
export function heldBack(held: Schemas['HeldField'][]): Refusal {
  const fields = Object.fromEntries(held.map((h) => [fieldName(h.field, ''), h.message]))
  return new Refusal(partly, held.map((h) => `${h.title}: ${h.message}`).join('; '), fields)
}

/** The status of a refusal of some fields of a section, the rest of which was kept: 207, Multi-Status. */
export const partly = 207

/** A field's name as the forms use it: body.section.supply.rating becomes survey.supply.rating. */
function fieldName(location: string, section: string): string {
  return location
    .replace(/^body\.section/, section)
    .replace(/^body\./, '')
    .replace(/\[(\d+)\]/g, '.$1')
}

/** A field's name as people say it: survey.supply.mainRating becomes survey, supply, main rating. */
const inWords = (field: string) =>
  field
    .replace(/\.(\d+)/g, (_, n) => ` ${Number(n) + 1}`)
    .replaceAll('.', ', ')
    .replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`)

/** Request options that send a file's bytes as they are. */
export const fileBody = (data: string | File, type: string) => ({
  body: data as never,
  bodySerializer: (b: unknown) => b as never,
  headers: { 'Content-Type': type },
})

type Answer<T> = { data?: T; error?: unknown; response: Response }

/** Waits for an operation and returns its data, or throws a Refusal that says why there is none. */
export async function ask<T>(request: Promise<Answer<T>>, section = ''): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await request
  } catch {
    throw new Refusal(0, 'the server does not answer; what you entered is kept here', {})
  }
  const { data, error, response } = answer
  if (response.ok) {
    noteOrigin(data, response)
    return data as T
  }
  const problem = error as Partial<Schemas['ErrorModel']> | undefined
  const fields: Record<string, string> = {}
  const clashes: Clash[] = []
  for (const e of problem?.errors ?? []) {
    if (e.location) fields[fieldName(e.location, section)] = e.message ?? ''
    if (e.value && typeof e.value === 'object' && 'theirs' in e.value) clashes.push(e.value as Clash)
  }
  const list = Object.entries(fields).map(([f, m]) => `${inWords(f)}: ${m}`)
  const detail = problem?.detail ?? `the server answered ${response.status}`
  throw new Refusal(
    response.status,
    detail === 'validation failed' && list.length ? list.join('; ') : detail,
    fields,
    clashes,
  )
}
