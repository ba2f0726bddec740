import { onKeyStroke } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, type InjectionKey, type Ref } from 'vue'
import { join } from '@/kept/join'

/** Taking back changes of a sheet, for its buttons. */
export interface Undo {
  can: Ref<number>
  canRedo: Ref<number>
  undo: () => void
  redo: () => void
}
interface Change {
  before: string
  after: string
  number: number
}
export const undoing: InjectionKey<Undo> = Symbol('undo')

const most = 10 // changes that can be taken back

// A page may hold two sheets: the key takes back what was changed last in any of them.
const sheets = new Set<{ note: () => void; last: () => number }>()
let made = 0 // changes so far

/**
 * The last changes of a document, each to be taken back by itself: only the fields that it changed go back, whatever came
 * in meanwhile stays. VueUse's history puts back the whole, so that of others too. `note` ends a change; `forget` says
 * that the document became another by something else.
 */
export function useUndo<T>(draft: Ref<T>, off: () => boolean): Undo & { note: () => void; forget: () => void } {
  const changes = ref<Change[]>([])
  const undone = ref<Change[]>([])
  const text = () => JSON.stringify(draft.value)
  let noted = text()

  function note() {
    const now = text()
    if (now === noted) return
    changes.value = [...changes.value, { before: noted, after: now, number: ++made }].slice(-most)
    undone.value = []
    noted = now
  }
  const forget = () => void (noted = text())
  function undo() {
    note()
    if (change(changes, undone, 'after', 'before')) forget()
  }
  function redo() {
    note()
    if (change(undone, changes, 'before', 'after')) forget()
  }
  /** Makes the last change of one list the other way round, and puts it on the other list. */
  function change(from: Ref<Change[]>, onto: Ref<Change[]>, is: 'before' | 'after', will: 'before' | 'after') {
    const last = from.value.at(-1)
    if (!last || off()) return false
    from.value = from.value.slice(0, -1)
    onto.value = [...onto.value, { ...last, number: ++made }]
    draft.value = join(JSON.parse(last[is]), JSON.parse(text()), JSON.parse(last[will])) as T
    return true
  }
  const sheet = { note, last: () => changes.value.at(-1)?.number ?? 0 }
  sheets.add(sheet)
  onBeforeUnmount(() => sheets.delete(sheet))
  // In a field that is typed in, the browser takes back what was typed.
  onKeyStroke(['z', 'Z'], (e) => {
    if (!(e.ctrlKey || e.metaKey) || e.defaultPrevented) return
    if ((e.target as Element).matches('input:not([type=radio], [type=checkbox]), textarea, select')) return
    for (const s of sheets) s.note()
    if ([...sheets].some((s) => s.last() > sheet.last())) return
    e.preventDefault()
    if (e.shiftKey) redo()
    else undo()
  })
  const count = (list: Ref<Change[]>) => computed(() => list.value.length)
  return { can: count(changes), canRedo: count(undone), undo, redo, note, forget }
}
