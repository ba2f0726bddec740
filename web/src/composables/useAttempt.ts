import { computed, ref } from 'vue'
import type { Refusal } from '@/api/client'

/** What came of a press: what was done, or what is wrong, in words and by the names of the fields. */
export function useAttempt() {
  const fields = ref<Record<string, string>>({})
  const wrong = ref('')
  const done = ref('')
  const busy = ref(false)
  /** Whether it went well. */
  async function attempt(what: () => Promise<unknown>, words = ''): Promise<boolean> {
    fields.value = {}
    wrong.value = done.value = ''
    busy.value = true
    try {
      await what()
      done.value = words
      return true
    } catch (e) {
      fields.value = (e as Refusal).fields ?? {}
      wrong.value = (e as Error).message
      return false
    } finally {
      busy.value = false
    }
  }
  /** What is wrong and stands at no field: where each field shows its own. */
  const elsewhere = computed(() => (Object.keys(fields.value).length ? '' : wrong.value))
  return { attempt, fields, wrong, elsewhere, done, busy }
}
