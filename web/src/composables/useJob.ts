import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, inject, provide, reactive, watch, type InjectionKey, type Ref } from 'vue'
import { ask, client, Refusal, type Entry, type JobView } from '@/api/client'
import { serverNow } from '@/kept/clock'
import { keptView, signal } from '@/kept/fetch'
import { judge } from '@/kept/judge'
import { drop, keepEntries, tryAgain, waiting } from '@/kept/outbox'
import { overlay } from '@/kept/overlay'
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
  /** Judges entries that could not be sent by the same rules, and shows them as kept. */
  async function keep(seq: number, entries: Entry[]) {
    const base = view.value!
    const others = (await pending(base.row.id)).filter((i) => i.seq !== seq)
    const before = (await keptView(base.row.id)) ?? (await overlay(base, others))
    const ids = new Set(entries.map((e) => e.id))
    const job = { ...before.job, log: before.job.log?.filter((e) => !ids.has(e.id)) }
    const writer = { name: me.value!.name, verifier: me.value!.role === 'verifier' }
    // Without the rules on this device it is kept all the same; the server judges it when it is sent.
    const judged = await judge({ op: 'add', job, policy: before.policy, writer, entries }).catch(() => undefined)
    if (judged?.errors?.length) {
      await drop(seq)
      throw new Refusal(422, judged.errors.map((e) => e.message).join('; '), {})
    }
    // With the calibration of the instruments, as the rules filled it in.
    if (judged) await store.outbox.update(seq, { entries: judged.log!.filter((e) => ids.has(e.id)) })
    accept((await keptView(base.row.id)) ?? (await overlay(base, await pending(base.row.id))))
  }
  // What this device had kept was sent: the job is read as the server has it.
  watch(waiting, (list) => {
    const id = view.value?.device && view.value.row.id
    if (id && !list.some((i) => i.job === id)) void refresh()
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
      const at = serverNow().toISOString()
      const whole = entries.map((e) => ({ id: crypto.randomUUID(), at, by: me.value?.name, ...e }) as Entry)
      const sent = await keepEntries(view.value!, whole, photo)
      if (sent.view) accept(sent.view)
      else await keep(sent.seq, whole)
    },
  }) as OpenedJob
  provide(jobKey, opened)
  return opened
}

/** The job that the frame has opened. */
export function useJob(): OpenedJob {
  return inject(jobKey)!
}
