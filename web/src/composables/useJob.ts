import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, inject, onBeforeUnmount, provide, shallowReactive, watch, type InjectionKey, type Ref } from 'vue'
import { ask, client, type Entry, type JobView, type Refusal } from '@/api/client'
import { keepView, keptView, signal } from '@/kept/fetch'
import { rulesReady } from '@/kept/judge'
import { waiting } from '@/kept/outbox'
import { overlay } from '@/kept/overlay'
import { enterAnew, press } from '@/kept/press'
import { onOutcome, tryAgain } from '@/kept/sender'
import { pending, type Item } from '@/kept/store'
import { useMe } from './useMe'

/** A job as the pages below the frame use it. */
export interface OpenedJob {
  id: string
  view: JobView
  /** Entries that are on this device only. */
  kept: string[]
  /** Shows what the server answered. */
  accept(view: JobView): void
  /** Shows what work makes of the job, or what came meanwhile; will says whether what is shown by now will do. */
  show(work: () => Promise<JobView>, will?: (now: JobView) => boolean): Promise<void>
  refresh(): Promise<void>
  log(entries: Partial<Entry>[], photo?: Item['photo']): Promise<void>
  /** Ids of what was logged since the job was opened here, the newest last. */
  logged: string[]
  /** The log without what was taken back. */
  standing: Entry[]
  /** Takes an entry back; without a reason where it was a slip of a moment ago. */
  takeBack(entry: Entry, reason: string): Promise<void>
  /** Enters anew, as of now, what was refused. */
  anew(item: Pick<Item, 'seq' | 'job'>): Promise<void>
}

const jobKey: InjectionKey<OpenedJob> = Symbol('job')

/** Opens a job for a frame of pages. The opened job is provided once the job is there. */
export function useJobQuery(id: Ref<string>) {
  const queries = useQueryClient()
  let shown = 0 // how often the job was shown otherwise
  /**
   * What work makes of the job; where it was shown otherwise meanwhile, what is on this device by now, or what is shown
   * where that will do.
   */
  async function newest(work: () => Promise<JobView>, will?: (now: JobView) => boolean): Promise<JobView> {
    const before = shown
    const view = await work()
    if (before === shown) return view
    const now = queries.getQueryData<JobView>(['job', view.row.id])
    return now && will?.(now) ? now : newest(async () => (await keptView(view.row.id)) ?? view, will)
  }
  const query = useQuery<JobView>({
    queryKey: computed(() => ['job', id.value]),
    queryFn: () => newest(() => ask(client.GET('/api/jobs/{job}', { params: { path: { job: id.value } } }))),
    refetchInterval: 20_000,
    retry: (count, error) => count < 2 && (error as Refusal).status === 0 && signal.value,
  })
  const show: OpenedJob['show'] = async (work, will) => {
    const view = await newest(work, will)
    shown++
    queries.setQueryData(['job', view.row.id], view)
    queries.invalidateQueries({ queryKey: ['jobs'] })
  }
  return { query, show }
}

/** Makes the opened job known to the pages inside the frame. */
export function provideJob(
  view: Ref<JobView | undefined>,
  show: OpenedJob['show'],
  refresh: () => Promise<void>,
): OpenedJob {
  const { me } = useMe()
  const writer = () => ({ name: me.value!.name, verifier: me.value!.roles.includes('verifier') })
  const fromDevice = async () => (await keptView(view.value!.row.id)) ?? view.value!
  const fromServer = (answer: JobView) => void show(async () => overlay(answer, await pending(answer.row.id)))
  /** Shows what was kept; where the server's view has come meanwhile, that has it. */
  function pressed(keep: () => ReturnType<typeof press>) {
    let ids: string[]
    return show(
      async () => {
        const kept = await keep()
        ids = kept.ids
        opened.logged = [...opened.logged, ...ids]
        return kept.shown
      },
      (now) => ids.every((id) => now.job.log?.some((e) => e.id === id)),
    )
  }
  // What this device had kept was sent: the job is shown as the server has it.
  const stop = onOutcome(({ item, view: now }) => {
    if (item.job !== view.value?.row.id) return
    if (now) fromServer(now)
    else if (!item.photo) void show(fromDevice) // without what was refused
  })
  onBeforeUnmount(stop)
  // Sent by another tab.
  watch(waiting, (list) => {
    const id = view.value?.device && view.value.row.id
    if (id && !list.some((i) => i.job === id)) void refresh()
  })
  // The rules came after the page: what was kept meanwhile is judged.
  watch(rulesReady, () => view.value?.device && void show(fromDevice))
  // What waited for the seal to be opened again is sent.
  watch(
    () => view.value?.row.sealed,
    (sealed) => sealed === false && void tryAgain({ job: view.value!.row.id, status: 409 }),
    { immediate: true },
  )
  const standing = computed(() => {
    const gone = new Set(view.value!.gone)
    return (view.value!.job.log ?? []).filter((e) => e.kind !== 'takeback' && !gone.has(e.id))
  })
  const opened: OpenedJob = shallowReactive({
    get id() {
      return view.value!.row.id
    },
    get view() {
      return view.value!
    },
    get kept() {
      return view.value!.device?.kept ?? []
    },
    accept(answer: JobView) {
      void keepView(answer)
      fromServer(answer)
    },
    show,
    refresh,
    logged: [],
    get standing() {
      return standing.value
    },
    takeBack: ({ id, point, subject }: Entry, reason: string) =>
      opened.log([{ kind: 'takeback', point, subject, replaces: id, reason: reason || undefined }]),
    log: (entries: Partial<Entry>[], photo?: Item['photo']) =>
      pressed(() => press(view.value!, writer(), entries, photo)),
    anew: (item: Pick<Item, 'seq' | 'job'>) => pressed(() => enterAnew(item, writer())),
  })
  provide(jobKey, opened)
  return opened
}

/** The job that the frame has opened. */
export function useJob(): OpenedJob {
  return inject(jobKey)!
}
