import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client, Refusal, type Schemas } from '@/api/client'

const key = ['me']

/** The signed-in person, and what they may do. */
export function useMe() {
  const queries = useQueryClient()
  const query = useQuery({
    queryKey: key,
    queryFn: () => ask(client.GET('/api/session')).catch((e: Refusal) => (e.status === 401 ? null : Promise.reject(e))),
    staleTime: 60_000,
    retry: false,
  })
  const me = computed(() => query.data.value ?? null)
  const may = (action: string) => me.value?.may.includes(action) ?? false
  async function signIn(username: string, password: string) {
    queries.setQueryData(key, await ask(client.POST('/api/session', { body: { username, password } })))
  }
  async function setUp(body: Schemas['SetUpInputBody']) {
    queries.setQueryData(key, await ask(client.POST('/api/setup', { body })))
  }
  async function signOut() {
    await ask(client.DELETE('/api/session'))
    queries.clear()
    queries.setQueryData(key, null)
  }
  return { query, me, may, signIn, setUp, signOut }
}
