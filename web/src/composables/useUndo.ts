import { onKeyStroke } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, type InjectionKey, type Ref } from 'vue'
import { join } from '@/kept/join'

/** Taking back changes of a sheet, for its buttons. */
export interface Undo {
  can: Ref<number>
  undo: () => void
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
  const changes = ref<{ before: string; after: string; number: number }[]>([])
  const text = () => JSON.stringify(draft.value)
  let noted = text()

  function note() {
    const now = text()
    if (now === noted) return
    changes.value = [...changes.value, { before: noted, after: now, number: ++made }].slice(-most)
    noted = now
  }
  const forget = () => void (noted = text())
  function undo() {
    note()
    const last = changes.value.at(-1)
    if (!last || off()) return
    changes.value = changes.value.slice(0, -1)
    draft.value = join(JSON.parse(last.after), JSON.parse(text()), JSON.parse(last.before)) as T
    forget()
  }
  const sheet = { note, last: () => changes.value.at(-1)?.number ?? 0 }
  sheets.add(sheet)
  onBeforeUnmount(() => sheets.delete(sheet))
  // In a field that is typed in, the browser takes back what was typed.
  onKeyStroke('z', (e) => {
    if (!(e.ctrlKey || e.metaKey) || e.shiftKey || e.defaultPrevented) return
    if ((e.target as Element).matches('input:not([type=radio], [type=checkbox]), textarea, select')) return
    for (const s of sheets) s.note()
    if ([...sheets].some((s) => s.last() > sheet.last())) return
    e.preventDefault()
    undo()
  })
  return { can: computed(() => changes.value.length), undo, note, forget }
}
