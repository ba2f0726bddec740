import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, inject, onBeforeUnmount, provide, reactive, watch, type InjectionKey, type Ref } from 'vue'
import { ask, client, type Entry, type JobView, type Refusal } from '@/api/client'
import { keptView, signal } from '@/kept/fetch'
import { rulesReady } from '@/kept/judge'
import { waiting } from '@/kept/outbox'
import { overlay } from '@/kept/overlay'
import { enterAnew, press } from '@/kept/press'
import { onOutcome, tryAgain } from '@/kept/sender'
import { pending, store, type Item } from '@/kept/store'
import { useMe } from './useMe'

/** A job as the pages below the frame use it. */
export interface OpenedJob {
  id: string
  view: JobView
  /** Entries that are on this device only. */
  kept: string[]
  accept(view: JobView): void
  refresh(): Promise<void>
  log(entries: Partial<Entry>[], photo?: Item['photo']): Promise<void>
  /** Enters anew, as of now, what was refused. */
  anew(item: Pick<Item, 'seq' | 'job'>): Promise<void>
}

const jobKey: InjectionKey<OpenedJob> = Symbol('job')

/** Opens a job for a frame of pages. The opened job is provided once the job is there. */
export function useJobQuery(id: Ref<string>) {
  const queries = useQueryClient()
  const query = useQuery<JobView>({
    queryKey: computed(() => ['job', id.value]),
    queryFn: () => ask(client.GET('/api/jobs/{job}', { params: { path: { job: id.value } } })),
    refetchInterval: 20_000,
    retry: (count, error) => count < 2 && (error as Refusal).status === 0 && signal.value,
  })
  const accept = (view: JobView) => {
    queries.setQueryData(['job', view.row.id], view)
    queries.invalidateQueries({ queryKey: ['jobs'] })
  }
  return { query, accept }
}

/** Makes the opened job known to the pages inside the frame. */
export function provideJob(view: Ref<JobView | undefined>, accept: (v: JobView) => void, refresh: () => Promise<void>) {
  const { me } = useMe()
  const writer = () => ({ name: me.value!.name, verifier: me.value!.role === 'verifier' })
  /** Shows what was kept, where it was not sent meanwhile: then the server's own view has come. */
  async function accepted(kept: ReturnType<typeof press>) {
    const { seq, shown } = await kept
    if (await store.outbox.get(seq)) accept(shown)
  }
  const show = async (base: JobView) => accept(await overlay(base, await pending(base.row.id)))
  // What this device had kept was sent: the job is shown as the server has it.
  const stop = onOutcome(({ item, view: now }) => {
    if (item.job !== view.value?.row.id) return
    if (now) void show(now)
    else if (!item.photo) void keptView(item.job).then((kept) => kept && accept(kept)) // without what was refused
  })
  onBeforeUnmount(stop)
  // Sent by another tab.
  watch(waiting, (list) => {
    const id = view.value?.device && view.value.row.id
    if (id && !list.some((i) => i.job === id)) void refresh()
  })
  // The rules came after the page: what was kept meanwhile is judged.
  watch(rulesReady, async () => {
    const id = view.value?.device && view.value.row.id
    const kept = id && (await keptView(id))
    if (kept) accept(kept)
  })
  // What waited for the seal to be opened again is sent.
  watch(
    () => view.value?.row.sealed,
    (sealed) => sealed === false && void tryAgain({ job: view.value!.row.id, status: 409 }),
    { immediate: true },
  )
  const opened = reactive({
    get id() {
      return view.value!.row.id
    },
    get view() {
      return view.value!
    },
    get kept() {
      return view.value!.device?.kept ?? []
    },
    accept,
    refresh,
    async log(entries: Partial<Entry>[], photo?: Item['photo']) {
      await accepted(press(view.value!, writer(), entries, photo))
    },
    async anew(item: Pick<Item, 'seq' | 'job'>) {
      await accepted(enterAnew(item, writer()))
    },
  }) as OpenedJob
  provide(jobKey, opened)
  return opened
}

/** The job that the frame has opened. */
export function useJob(): OpenedJob {
  return inject(jobKey)!
}
