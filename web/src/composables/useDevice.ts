import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'

export type Scheme = 'light' | 'dark' | 'sun'

/** What belongs to this device: its colour scheme and the instruments in hand. */
export const useDevice = defineStore('device', () => {
  const scheme = ref((localStorage.getItem('scheme') as Scheme) ?? 'light')
  const instrument = ref(localStorage.getItem('instrument') ?? '')
  const driver = ref(localStorage.getItem('driver') ?? '')
  watch(driver, (s) => localStorage.setItem('driver', s))
  watch(scheme, (s) => localStorage.setItem('scheme', s))
  watch(instrument, (s) => localStorage.setItem('instrument', s))
  const schemeClass = computed(() => (scheme.value === 'light' ? '' : `scheme-${scheme.value}`))
  return { scheme, instrument, driver, schemeClass }
})
