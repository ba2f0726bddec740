import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'

export type Scheme = 'light' | 'dark' | 'sun'

/** What belongs to this device: its colour scheme, the instruments in hand, and what they show past their range. */
export const useDevice = defineStore('device', () => {
  const scheme = ref((localStorage.getItem('scheme') as Scheme) ?? 'light')
  const instrument = ref(localStorage.getItem('instrument') ?? '')
  const driver = ref(localStorage.getItem('driver') ?? '')
  const beyond = ref<Record<string, string>>(JSON.parse(localStorage.getItem('beyond') ?? '{}'))
  watch(beyond, (b) => localStorage.setItem('beyond', JSON.stringify(b)))
  watch(driver, (s) => localStorage.setItem('driver', s))
  watch(scheme, (s) => localStorage.setItem('scheme', s))
  watch(instrument, (s) => localStorage.setItem('instrument', s))
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
