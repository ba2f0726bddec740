import type { Schemas } from '@/api/client'

export type Role = Schemas['Me']['roles'][number]

/** What a person can be in a firm, and what each may do. One person can be several. */
export const roles: { value: Role; may: string }[] = [
  { value: 'office', may: 'people, the firm’s data, papers and days' },
  { value: 'surveyor', may: 'surveys and designs' },
  { value: 'installer', may: 'logs work on site' },
  { value: 'verifier', may: 'everything on a job: tests, accepts a stop, seals' },
]
