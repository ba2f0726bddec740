import { useEventListener } from '@vueuse/core'

/** Runs actions for keys pressed outside of fields; combinations with Ctrl work everywhere. */
export function useKeys(keys: Record<string, (e: KeyboardEvent) => void>) {
  useEventListener('keydown', (e) => {
    const name = (e.ctrlKey || e.metaKey ? 'ctrl+' : '') + e.key.toLowerCase()
    const typing = e.target instanceof HTMLElement && e.target.matches('input, select, textarea, [contenteditable]')
    if (e.altKey || (typing && !name.startsWith('ctrl+'))) return
    const action = keys[name]
    if (action) {
      e.preventDefault()
      action(e)
    }
  })
}
