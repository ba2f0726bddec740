import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, inject, provide, reactive, type InjectionKey, type Ref } from 'vue'
import { ask, client, Refusal, type Entry, type JobView } from '@/api/client'

/** A job as the pages below the frame use it. */
export interface JobDesk {
  id: string
  view: JobView
  us: boolean
  accept(view: JobView): void
  refresh(): Promise<void>
  log(entries: Partial<Entry>[]): Promise<void>
}

const deskKey: InjectionKey<JobDesk> = Symbol('job')

/** Opens a job for a frame of pages. The desk is provided once the job is there. */
export function useJobQuery(id: Ref<string>) {
  const queries = useQueryClient()
  const query = useQuery({
    queryKey: computed(() => ['job', id.value]),
    queryFn: () => ask(client.GET('/api/jobs/{job}', { params: { path: { job: id.value } } })),
    refetchInterval: 20_000,
    retry: (count, error) => count < 2 && (error as Refusal).status === 0,
  })
  const accept = (view: JobView) => {
    queries.setQueryData(['job', view.row.id], view)
    queries.invalidateQueries({ queryKey: ['jobs'] })
  }
  return { query, accept }
}

/** Makes the opened job known to the pages inside the frame. */
export function provideDesk(
  view: Ref<JobView | undefined>,
  accept: (v: JobView) => void,
  refresh: () => Promise<void>,
) {
  const desk = reactive({
    get id() {
      return view.value!.row.id
    },
    get view() {
      return view.value!
    },
    get us() {
      return view.value!.book.school === 'us'
    },
    accept,
    refresh,
    async log(entries: Partial<Entry>[]) {
      const at = new Date().toISOString()
      const body = {
        entries: entries.map((e) => ({ id: crypto.randomUUID(), at, ...e }) as Entry),
      }
      accept(await ask(client.POST('/api/jobs/{job}/entries', { params: { path: { job: view.value!.row.id } }, body })))
    },
  }) as JobDesk
  provide(deskKey, desk)
  return desk
}

/** The job that the frame has opened. */
export function useDesk(): JobDesk {
  return inject(deskKey)!
}
