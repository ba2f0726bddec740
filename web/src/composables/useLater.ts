import { onBeforeUnmount, ref, type Ref } from 'vue'

/**
 * False as a component is drawn first, true a moment later: what it draws then is drawn apart, and a tap in between is
 * answered.
 */
export function useLater(): Ref<boolean> {
  const later = ref(false)
  const timer = window.setTimeout(() => (later.value = true))
  onBeforeUnmount(() => window.clearTimeout(timer))
  return later
}
