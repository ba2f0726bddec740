import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'

/** The rulebooks that ship, each with its country. They change with the program alone. */
export const useBooks = () =>
  useQuery({ queryKey: ['rulebooks'], queryFn: () => ask(client.GET('/api/rulebooks')), staleTime: Infinity })
