import { base } from '@/base'
import { ref } from 'vue'
import { waiting } from './outbox'
import { sending } from './sender'

/** Whether a newer version of the pages is on this device and waits to be taken. */
export const newVersion = ref(false)
const patience = 3_000 // ms. Common practice, no source.
let kept = false
let waits: ServiceWorker | undefined

/** Puts the pages on the device, for a cold start without signal, and learns of newer ones. */
export async function keepPages() {
  if (kept || !import.meta.env.PROD || !navigator.serviceWorker) return
  kept = true
  const here = await navigator.serviceWorker.register(`${base}/sw.js`)
  const see = (w?: ServiceWorker | null) => {
    if (w?.state !== 'installed' || !navigator.serviceWorker.controller) return
    waits = w
    newVersion.value = true
  }
  see(here.waiting)
  here.addEventListener('updatefound', () => {
    const w = here.installing
    w?.addEventListener('statechange', () => see(w))
  })
}

/** Whether nothing is under way that a fresh start of the page would disturb. */
export const quiet = () => !waiting.value.length && !sending.value

/** Takes the new version: the page starts anew, at an address. What waits on the device stays. */
export function takeNewVersion(at = location.pathname + location.search) {
  const go = () => location.assign(at)
  navigator.serviceWorker.addEventListener('controllerchange', go, { once: true })
  window.setTimeout(go, patience) // it takes over when the old one is done
  waits?.postMessage({ type: 'SKIP_WAITING' })
}
