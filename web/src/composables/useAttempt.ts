import { computed, ref } from 'vue'
import { useMutation } from '@tanstack/vue-query'
import type { Refusal } from '@/api/client'

/** What came of a press: what was done, or what is wrong, in words and by the names of the fields. */
export function useAttempt() {
  const done = ref('')
  const {
    mutateAsync,
    reset,
    error,
    isPending: busy,
  } = useMutation<unknown, Refusal, () => Promise<unknown>>({ mutationFn: (what) => what(), networkMode: 'always' })
  const fields = computed<Record<string, string>>(() => error.value?.fields ?? {})
  const wrong = computed(() => error.value?.message ?? '')
  /** Forgets what came of it. */
  function clear() {
    done.value = ''
    reset()
  }
  /** Whether it went well. */
  async function attempt(what: () => Promise<unknown>, words = ''): Promise<boolean> {
    clear()
    try {
      await mutateAsync(what)
      done.value = words
      return true
    } catch {
      return false // it is in `wrong`
    }
  }
  /** What is wrong and stands at no field: where each field shows its own. */
  const elsewhere = computed(() => (Object.keys(fields.value).length ? '' : wrong.value))
  return { attempt, clear, fields, wrong, elsewhere, done, busy }
}
