import type { Schemas } from '@/api/client'

/** The page that whoever was here last begins on: known before the server has said who is signed in. */
export const firstPage = () => localStorage.getItem('first') ?? '/jobs'

/** A crew begins with its day, others with the list. */
export const rememberFirst = (roles: Schemas['Me']['roles']) =>
  localStorage.setItem('first', roles.every((r) => r === 'installer') ? '/today' : '/jobs')
