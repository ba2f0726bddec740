import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, effectScope, watch } from 'vue'
import { ask, client, type Refusal, type Schemas } from '@/api/client'
import { askedPasskey } from '@/composables/passkeys'
import { keptSession } from '@/kept/fetch'
import { rememberFirst } from './first'
import {
  belong,
  closed,
  ended,
  leavingTold,
  leftWithoutSignal,
  person,
  recognise,
  rememberLeaving,
} from '@/kept/person'
import { send } from '@/kept/sender'
import { forget } from '@/kept/store'

const key = ['me']

/** A person as an older version of the program left them on this device, with one role. */
const whole = (m: Schemas['Me'] & { role?: Schemas['Me']['roles'][number] }): Schemas['Me'] =>
  m.roles ? m : { ...m, roles: m.role ? [m.role] : [] }

let shared: ReturnType<typeof make> | undefined

/** The signed-in person, and what they may do: one query for all pages. Called first where the app is set up. */
export const useMe = () => (shared ??= effectScope(true).run(make)!)

function make() {
  const queries = useQueryClient()
  const query = useQuery({
    queryKey: key,
    queryFn: async () => {
      try {
        if (leftWithoutSignal()) {
          await ask(client.DELETE('/api/session'))
          leavingTold()
          return null
        }
        const asked = person()
        const answer = whole(await ask(client.GET('/api/session')))
        // Who signed in on this tab meanwhile is not displaced by an answer about who was here before.
        if (person() !== asked) return queries.getQueryData<Schemas['Me']>(key) ?? null
        return recognise(answer.id, answer.name) ? answer : (queries.getQueryData<Schemas['Me']>(key) ?? null)
      } catch (e) {
        if ((e as Refusal).status !== 401) throw e
        // On site the pages go on with what is on the device, until there is time to sign in again.
        const own = await keptSession()
        if (!own || closed.value || whole(own).roles.every((r) => r === 'office')) return null
        ended.value = true
        return whole(own)
      }
    },
    staleTime: 60_000,
    retry: false,
  })
  const me = computed(() => query.data.value ?? null)
  const may = (action: string) => me.value?.may.includes(action) ?? false
  watch(me, (now) => now && rememberFirst(now.roles), { immediate: true, flush: 'sync' })
  async function begin(answer: Schemas['Me']) {
    if (person() && person() !== answer.id) queries.clear() // nothing of who was here before
    belong(answer.id, answer.name)
    leavingTold()
    queries.setQueryData(key, answer)
    void send()
  }
  async function signIn(username: string, password: string, code?: string) {
    await begin(await ask(client.POST('/api/session', { body: { username, password, code } })))
  }
  async function signInByPasskey() {
    await begin(await ask(client.POST('/api/session/passkey', { body: { answer: await askedPasskey() } })))
  }
  async function setUp(body: Schemas['SetUpInputBody']) {
    await begin(await ask(client.POST('/api/setup', { body })))
  }
  async function useLink(token: string, password: string) {
    await begin(await ask(client.POST('/api/link', { body: { token, password } })))
  }
  async function signOut() {
    // Without signal the pages are shut all the same, and the server is told as soon as it answers.
    await ask(client.DELETE('/api/session')).catch((e: Refusal) => {
      if (e.status !== 0) throw e
      rememberLeaving()
    })
    await shut()
  }
  /** Shuts the pages: nobody's from now on. What waits to be sent stays. */
  async function shut() {
    belong('')
    await forget()
    queries.clear()
    queries.setQueryData(key, null)
  }
  return { query, me, may, signIn, signInByPasskey, setUp, useLink, signOut, shut }
}
