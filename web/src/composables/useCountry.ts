import { computed, type ComputedRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useJob } from './useJob'

type Unit = Schemas['Unit']

/** Writes a value in SI in a unit, with its usual decimals or others. */
export const inUnit = (u: Unit, si: number, decimals = u.decimals) =>
  `${(si / u.size + (u.zero ?? 0)).toFixed(decimals)} ${u.symbol}`

/** How a number field shows a unit. */
const shown = (u: Unit) => ({ unit: u.symbol, scale: u.size, zeroAt: u.zero ?? 0 })

/** Terms as the options of a choice; the values are those of the document's type. */
export const terms = <T>(list: Schemas['Term'][], read: (value: string) => T = (v) => v as T) =>
  list.map((t) => ({ value: read(t.value), text: t.text }))

/**
 * What the open job's country asks, calls things and measures in. Pages take it from here; none asks which country it is.
 */
export function useCountry() {
  const opened = useJob()
  const page: ComputedRef<Schemas['Page']> = computed(() => opened.view.book.practice)
  return {
    page,
    /** Whether the country asks a field, by its path without places: supply.declaredZe. */
    asks: (field: string) => field in page.value.fields,
    label: (field: string) => page.value.fields[field] ?? field,
    word: (key: string) => page.value.words[key] ?? key,
    /** For v-bind on a number field. */
    length: computed(() => shown(page.value.units.length)),
    height: computed(() => shown(page.value.units.height)),
    size: computed(() => shown(page.value.units.size)),
    floor: computed(() => shown(page.value.units.floor)),
    temperature: computed(() => shown(page.value.units.temperature)),
    sayLength: (m: number, decimals?: number) => inUnit(page.value.units.length, m, decimals),
  }
}
