import { defineStore } from 'pinia'
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'

export type Scheme = 'light' | 'dark' | 'sun'

/** What belongs to this device: its colour scheme, the instruments in hand, and what they show past their range. */
export const useDevice = defineStore('device', () => {
  const scheme = useLocalStorage<Scheme>('scheme', 'light')
  const instrument = useLocalStorage('instrument', '')
  const driver = useLocalStorage('driver', '')
  const beyond = useLocalStorage<Record<string, string>>('beyond', {})
  const schemeClass = computed(() => (scheme.value === 'light' ? '' : `scheme-${scheme.value}`))
  const key = (unit: string) => `${instrument.value.trim()} ${unit}`
  /** What the instrument in hand showed past its range in a unit, such as >999 in MΩ, if it was ever entered. */
  const past = (unit: string): string | undefined => beyond.value[key(unit)]
  /** Notes a reading that may be past the range. */
  const notePast = (unit: string, shown: string) => {
    if (/^>[\d.]+$/.test(shown)) beyond.value = { ...beyond.value, [key(unit)]: shown }
  }
  return { scheme, instrument, driver, past, notePast, schemeClass }
})
