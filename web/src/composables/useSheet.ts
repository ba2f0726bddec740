import { computed, nextTick, onBeforeUnmount, provide, ref, watch, type InjectionKey, type Ref } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { ask, client, Refusal, type JobView, type Schemas } from '@/api/client'
import { useDesk } from './useJob'

type Sheets = {
  site: Schemas['Site']
  survey: Schemas['SurveySheet']
  design: Schemas['DesignSheet']
  clearances: Schemas['ClearanceSheet']
  plan: Schemas['PlanSheet']
}
export type SheetName = keyof Sheets
export type SheetState = 'saved' | 'waiting' | 'saving' | 'refused' | 'conflict'

/** Errors by field, for the fields below a sheet. */
export const fieldErrors: InjectionKey<Ref<Record<string, string>>> = Symbol('errors')

const pause = 500 // ms after the last change

/**
 * A local copy of one section of the job. It saves itself a moment after each change; whatever the server refuses
 * stays in the form with its reason, and when someone else saved first the person decides whose values stay. `shape`
 * fills in the parts that a new job does not have yet.
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
  const locked = computed(() => desk.view.row.sealed)
  let timer = 0
  let quiet = false
  let running: Promise<void> | undefined
  provide(fieldErrors, errors)

  watch(
    draft,
    () => {
      if (quiet || state.value === 'conflict') return
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
    revision.value = view.revisions[name]
    state.value = 'saved'
    reason.value = ''
    errors.value = {}
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

  async function send() {
    const sent = JSON.stringify(draft.value)
    state.value = 'saving'
    try {
      const path = `/api/jobs/{job}/${name}` as '/api/jobs/{job}/site'
      const view = await ask(
        client.PUT(path, {
          params: { path: { job: desk.id } },
          body: { revision: revision.value, sheet: JSON.parse(sent) },
        }),
        name,
      )
      revision.value = view.revisions[name]
      errors.value = {}
      reason.value = ''
      desk.accept(view)
      state.value = JSON.stringify(draft.value) === sent ? 'saved' : 'waiting'
      if (state.value === 'waiting') timer = window.setTimeout(save, pause)
    } catch (e) {
      const refusal = e as Refusal
      errors.value = refusal.fields
      reason.value = refusal.message
      state.value = refusal.status === 409 && !refusal.message.includes('sealed') ? 'conflict' : 'refused'
    }
  }

  async function retry() {
    state.value = 'waiting'
    await save()
  }
  async function mine() {
    await desk.refresh()
    revision.value = desk.view.revisions[name]
    state.value = 'waiting'
    await save()
  }
  async function theirs() {
    await desk.refresh()
    take(desk.view)
  }

  const warn = (e: BeforeUnloadEvent) => state.value !== 'saved' && e.preventDefault()
  window.addEventListener('beforeunload', warn)
  onBeforeUnmount(() => window.removeEventListener('beforeunload', warn))
  onBeforeRouteLeave(async () => {
    await save()
    return state.value === 'saved' || window.confirm(`Not saved: ${reason.value}\nLeave all the same?`)
  })
  return { draft, state, reason, errors, locked, save, retry, mine, theirs }
}
