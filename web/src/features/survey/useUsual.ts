import { computed, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import type { Survey } from './shape'

type Doc = Record<string, unknown> | unknown[]
const given = (v: unknown) => v !== undefined && v !== null && v !== '' && !(Array.isArray(v) && !v.length)
const get = (doc: unknown, path: string[]): unknown => path.reduce<unknown>((d, p) => (d as never)?.[p], doc)

function put(doc: Doc, [name, ...rest]: string[], value: unknown) {
  const d = doc as Record<string, unknown>
  if (!rest.length) d[name!] = value
  else put((d[name!] ??= /^\d+$/.test(rest[0]!) ? [] : {}) as Doc, rest, value)
}

/** The answers that are usual in the country and that nobody has given here, and how to confirm them all. */
export function useUsual(survey: Ref<Survey>) {
  const { page } = useCountry()
  const path = (u: Schemas['Usual']) => u.field.split('.').slice(1)
  const open = computed(() => page.value.usual.filter((u) => !given(get(survey.value, path(u)))))
  function confirm() {
    for (const u of open.value) put(survey.value as unknown as Doc, path(u), JSON.parse(JSON.stringify(u.value)))
  }
  return { open, confirm }
}
