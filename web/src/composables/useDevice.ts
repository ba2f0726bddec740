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
  /** Notes what an instrument shows past its range in a unit, such as >999 in MΩ. */
  const notePast = (unit: string, shown: string) => {
    if (/^>[\d.]+$/.test(shown)) beyond.value = { ...beyond.value, [unit]: shown }
  }
  return { scheme, instrument, driver, beyond, notePast, schemeClass }
})
