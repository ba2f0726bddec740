import { useWakeLock } from '@vueuse/core'
import { onMounted } from 'vue'
import { useNarrow } from './useWidth'

/**
 * Keeps a phone's screen on while this page is open: hands in gloves do not wake it. Where the browser has no
 * such thing, or the battery is low and it refuses, the screen goes dark as ever.
 */
export function useAwake() {
  const phone = useNarrow()
  const { isSupported, request } = useWakeLock()
  onMounted(() => isSupported.value && phone.value && request('screen').catch(() => undefined))
}
