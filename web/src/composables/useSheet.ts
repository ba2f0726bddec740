import { computed, nextTick, onBeforeUnmount, onMounted, provide, ref, watch, type InjectionKey, type Ref } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { type Clash, type JobView, type Refusal, type Schemas } from '@/api/client'
import { dropSheet, keepSheet, waiting } from '@/kept/outbox'
import { pending } from '@/kept/store'
import { useDesk } from './useJob'

type Sheets = {
  site: Schemas['Site']
  survey: Schemas['SurveySheet']
  design: Schemas['DesignSheet']
  clearances: Schemas['ClearanceSheet']
  plan: Schemas['PlanSheet']
}
export type SheetName = keyof Sheets
export type SheetState = 'saved' | 'waiting' | 'saving' | 'kept' | 'refused' | 'clash'

/** Errors by field, for the fields below a sheet. */
export const fieldErrors: InjectionKey<Ref<Record<string, string>>> = Symbol('errors')

const pause = 500 // ms after the last change

/**
 * A local copy of one section of the job. It saves itself a moment after each change; whatever the server refuses
 * stays in the form with its reason. Without signal the changes are kept on this device; what somebody else saved
 * meanwhile is joined with them field by field, and where both changed one field the person chooses. `shape` fills in
 * the parts that a new job does not have yet.
 */
export function useSheet<N extends SheetName, S extends Sheets[N] = Sheets[N]>(
  name: N,
  shape: (sheet: Sheets[N]) => S = (sheet) => sheet as S,
) {
  const desk = useDesk()
  const copy = () => shape(JSON.parse(JSON.stringify(desk.view.job[name] ?? {})))
  const draft = ref(copy()) as Ref<S>
  const revision = ref(desk.view.revisions[name] ?? 0)
  const state = ref<SheetState>('saved')
  const reason = ref('')
  const errors = ref<Record<string, string>>({})
  const clashes = ref<Clash[]>([])
  const locked = computed(() => desk.view.row.sealed)
  let timer = 0
  let quiet = false
  let running: Promise<void> | undefined
  // What the changes began from, to be joined with what others save meanwhile.
  let base: unknown = JSON.parse(JSON.stringify(desk.view.job[name] ?? {}))
  provide(fieldErrors, errors)

  watch(
    draft,
    () => {
      if (quiet || state.value === 'clash') return
      state.value = 'waiting'
      window.clearTimeout(timer)
      timer = window.setTimeout(save, pause)
    },
    { deep: true },
  )
  // Someone else's change comes in while nothing of ours is waiting.
  watch(
    () => desk.view.revisions[name],
    (now) => {
      if (now > revision.value && state.value === 'saved') take(desk.view)
    },
  )

  function take(view: JobView) {
    quiet = true
    draft.value = copy()
    base = JSON.parse(JSON.stringify(view.job[name] ?? {}))
    revision.value = view.revisions[name]
    state.value = 'saved'
    reason.value = ''
    errors.value = {}
    clashes.value = []
    nextTick(() => (quiet = false))
  }

  async function save(): Promise<void> {
    window.clearTimeout(timer)
    if (running) await running
    if (state.value !== 'waiting') return
    running = send()
    await running
    running = undefined
  }

  async function send(choices?: Schemas['Choice'][]) {
    const sent = JSON.stringify(draft.value)
    state.value = 'saving'
    try {
      const { view, refusal } = await keepSheet(desk.view, name, revision.value, base, JSON.parse(sent), choices)
      if (refusal) return refused(refusal)
      errors.value = {}
      reason.value = ''
      const joined = view && view.revisions[name] > revision.value + 1
      if (view) {
        revision.value = view.revisions[name]
        desk.accept(view)
        base = JSON.parse(JSON.stringify(view.job[name] ?? {}))
      }
      const still = JSON.stringify(draft.value) === sent
      state.value = !still ? 'waiting' : view ? 'saved' : 'kept'
      if (!still) timer = window.setTimeout(save, pause)
      // What somebody else changed meanwhile was joined in.
      else if (joined) take(view)
    } catch (e) {
      refused(e as Refusal)
    }
  }

  function refused(r: Pick<Refusal, 'status' | 'message' | 'fields' | 'clashes'>) {
    errors.value = r.fields
    reason.value = r.message
    clashes.value = r.clashes
    state.value = r.clashes.length ? 'clash' : 'refused'
  }

  async function retry() {
    state.value = 'waiting'
    await save()
  }
  /** Settles fields that clashed, and saves again. */
  async function settle(choices: Schemas['Choice'][]) {
    running = send(choices)
    await running
    running = undefined
  }
  /** Gives up what was changed here. */
  async function theirs() {
    await dropSheet(desk.id, name)
    await desk.refresh()
    take(desk.view)
  }

  // What was kept is sent by itself when signal comes back.
  watch(waiting, async (list) => {
    if (state.value !== 'kept') return
    const item = list.find((i) => i.job === desk.id && i.sheet?.name === name)
    if (item?.refused) return refused(item.refused)
    if (item) return
    await desk.refresh()
    if (state.value === 'kept') take(desk.view)
  })
  // What an earlier visit left unsent goes on from where it began.
  onMounted(async () => {
    const left = (await pending(desk.id)).find((i) => i.sheet?.name === name)
    if (!left?.sheet) return
    base = left.sheet.base
    revision.value = left.sheet.revision
    if (left.refused) refused(left.refused)
    else state.value = 'kept'
  })

  const done = () => state.value === 'saved' || state.value === 'kept'
  const warn = (e: BeforeUnloadEvent) => !done() && e.preventDefault()
  window.addEventListener('beforeunload', warn)
  onBeforeUnmount(() => window.removeEventListener('beforeunload', warn))
  onBeforeRouteLeave(async () => {
    await save()
    return done() || window.confirm(`Not saved: ${reason.value}\nLeave all the same?`)
  })
  return { draft, state, reason, errors, clashes, locked, save, retry, settle, theirs }
}
