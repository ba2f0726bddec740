import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, onMounted, provide, ref, watch, type InjectionKey, type Ref } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { partly, type Clash, type JobView, type Refusal, type Schemas } from '@/api/client'
import { join } from '@/kept/join'
import { dropSection, waiting } from '@/kept/outbox'
import { keepSection } from '@/kept/press'
import { onOutcome } from '@/kept/sender'
import { pending } from '@/kept/store'
import { useJob } from './useJob'
import { undoing, useUndo } from './useUndo'

type SectionTypes = {
  site: Schemas['Site']
  survey: Schemas['Survey']
  design: Schemas['Design']
  clearances: Schemas['Clearances']
  plan: Schemas['Plan']
}
export type SectionName = keyof SectionTypes
export type SaveState = 'saved' | 'waiting' | 'saving' | 'kept' | 'partly' | 'refused' | 'clash'

/** Errors by field, for the fields below a section. */
export const fieldErrors: InjectionKey<Ref<Record<string, string>>> = Symbol('errors')

/** By field: which limits on it cannot be met together. */
export const limitClashes: InjectionKey<Ref<Record<string, string>>> = Symbol('clashes')

/** A copy of a section that nothing else holds. */
const plain = <T>(section: T): NonNullable<T> => JSON.parse(JSON.stringify(section ?? {}))

const pause = 500 // ms after the last change

/**
 * A local copy of one section of the job. It saves itself a moment after each change; whatever the server refuses
 * stays in the form with its reason. Without signal the changes are kept on this device; what somebody else saved
 * meanwhile is joined with them field by field, and where both changed one field the person chooses. `shape` fills in
 * the parts that a new job does not have yet.
 */
export function useSection<N extends SectionName, S extends SectionTypes[N] = SectionTypes[N]>(
  name: N,
  shape: (section: SectionTypes[N]) => S = (section) => section as S,
  afterSeal = false, // a part of it is still entered on a sealed job
) {
  const opened = useJob()
  const draft = ref(shape(plain(opened.view.job[name]))) as Ref<S>
  const revision = ref(opened.view.revisions[name] ?? 0)
  const state = ref<SaveState>('saved')
  const reason = ref('')
  const errors = ref<Record<string, string>>({})
  const clashes = ref<Clash[]>([])
  const locked = computed(() => opened.view.row.sealed && !afterSeal)
  let timer = 0
  let quiet = false
  let running: Promise<void> | undefined
  // What the changes began from, to be joined with what others save meanwhile.
  let base: unknown = plain(opened.view.job[name])
  let last: unknown // what this tab kept of it that was not sent
  provide(fieldErrors, errors)
  const history = useUndo(draft, () => locked.value || state.value === 'clash')
  provide(undoing, history)

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
    () => opened.view.revisions[name],
    (now) => {
      if (now > revision.value && state.value === 'saved') take(opened.view)
    },
  )

  function take(view: JobView) {
    quiet = true
    draft.value = shape(plain(view.job[name]))
    base = plain(view.job[name])
    revision.value = view.revisions[name]
    history.forget()
    state.value = 'saved'
    reason.value = ''
    errors.value = {}
    clashes.value = []
    nextTick(() => (quiet = false))
  }

  /** Fills the form with what came of joining, which is no change of this tab's. */
  function fill(section: SectionTypes[N]) {
    quiet = true
    draft.value = shape(plain(section))
    history.forget()
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
    history.note()
    const sent = JSON.stringify(draft.value)
    state.value = 'saving'
    try {
      const body = JSON.parse(sent)
      const section = { name, revision: revision.value, base, body, choices }
      let joined: unknown
      await opened.show(async () => {
        const kept = await keepSection(opened.view, section, last)
        joined = kept.joined
        return kept.shown
      })
      // What the server made of it may have come meanwhile.
      if (state.value !== 'saving') return
      last = body
      errors.value = {}
      reason.value = ''
      if (JSON.stringify(draft.value) !== sent) return again()
      state.value = 'kept'
      if (joined !== undefined) fill((last = joined) as SectionTypes[N])
    } catch (e) {
      refused(e as Refusal)
    }
  }

  function again() {
    state.value = 'waiting'
    timer = window.setTimeout(save, pause)
  }

  // What became of it: saved, with what others changed meanwhile joined in, or refused.
  const stop = onOutcome(async ({ item, view, refusal }) => {
    if (item.job !== opened.id || item.section?.name !== name) return
    if (refusal && !view) return refused(refusal)
    if (!view) return
    const theirs = view.job[name] as SectionTypes[N]
    const same = JSON.stringify(draft.value) === JSON.stringify(item.section.body)
    revision.value = view.revisions[name]
    base = plain(theirs)
    if (view.revisions[name] > item.section.revision + 1)
      fill(join(item.section.body, theirs, draft.value) as SectionTypes[N])
    const more = (await pending(opened.id)).some((i) => i.section?.name === name)
    if (refusal && same) return refused(refusal) // the rest is kept, and this stays in the form
    if (more || (!same && state.value !== 'kept')) return // changed since: that is sent next
    last = undefined
    if (same) state.value = 'saved'
    else take(view) // another tab's changes went with ours
  })
  onBeforeUnmount(stop)

  function refused(r: Pick<Refusal, 'status' | 'message' | 'fields' | 'clashes'>) {
    errors.value = r.fields
    reason.value = r.message
    clashes.value = r.clashes
    state.value = r.clashes.length ? 'clash' : r.status === partly ? 'partly' : 'refused'
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
    await dropSection(opened.id, name)
    await opened.refresh()
    take(opened.view)
  }

  // What was kept is sent by itself when signal comes back.
  watch(waiting, async (list) => {
    if (state.value !== 'kept') return
    const item = list.find((i) => i.job === opened.id && i.section?.name === name)
    if (item?.refused) return refused(item.refused)
    if (item) return
    await opened.refresh()
    if (state.value === 'kept') take(opened.view)
  })
  // What an earlier visit left unsent goes on from where it began.
  onMounted(async () => {
    const left = (await pending(opened.id)).find((i) => i.section?.name === name)
    if (!left?.section) return
    base = left.section.base
    last = left.section.body
    revision.value = left.section.revision
    if (left.refused) refused(left.refused)
    else state.value = 'kept'
  })

  const done = () => ['saved', 'kept', 'partly'].includes(state.value)
  const warn = (e: BeforeUnloadEvent) => !done() && e.preventDefault()
  useEventListener('beforeunload', warn)
  onBeforeRouteLeave(async () => {
    await save()
    return done() || window.confirm(`Not saved: ${reason.value}\nLeave all the same?`)
  })
  return { draft, state, reason, errors, clashes, locked, save, retry, settle, theirs }
}
