import { computed, ref } from 'vue'
import { useMutation } from '@tanstack/vue-query'
import type { Refusal } from '@/api/client'

/** What came of a press: what was done, or what is wrong, in words and by the names of the fields. */
export function useAttempt() {
  const done = ref('')
  const before = ref('')
  const busy = ref(false) // at once: the mutation tells its state a turn later
  const { mutateAsync, reset, error } = useMutation<unknown, Refusal, () => Promise<unknown>>({
    mutationFn: (what) => what(),
    networkMode: 'always',
  })
  const fields = computed<Record<string, string>>(() => error.value?.fields ?? {})
  const wrong = computed(() => (error.value ? before.value + error.value.message : ''))
  /** Forgets what came of it. */
  function clear() {
    done.value = ''
    reset()
  }
  /**
   * Whether it went well. `words` say that it did, `about` stands before what is wrong: the name of a file, say.
   */
  async function attempt(
    what: () => Promise<unknown>,
    words: string | (() => string) = '',
    about = '',
  ): Promise<boolean> {
    clear()
    before.value = about
    busy.value = true
    try {
      await mutateAsync(what)
      done.value = typeof words === 'string' ? words : words()
      return true
    } catch {
      return false // it is in `wrong`
    } finally {
      busy.value = false
    }
  }
  /** What is wrong and stands at no field: where each field shows its own. */
  const elsewhere = computed(() => (Object.keys(fields.value).length ? '' : wrong.value))
  /** What was done or is wrong, for a page that says both in one place. */
  const told = computed(() => done.value || wrong.value)
  return { attempt, clear, fields, wrong, elsewhere, done, told, busy, error }
}
