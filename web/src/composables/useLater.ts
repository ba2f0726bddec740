import { onBeforeUnmount, ref, type Ref } from 'vue'
import { inTurn } from './inTurn'

/** False as a component is drawn first, true when it is its turn: what it draws then is drawn apart. */
export function useLater(): Ref<boolean> {
  const later = ref(false)
  onBeforeUnmount(inTurn(() => (later.value = true)))
  return later
}
