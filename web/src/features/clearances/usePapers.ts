import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'

/** What the server says about the papers of the opened job, asked again whenever the job changes or was sent. */
export function usePapers() {
  const opened = useJob()
  const queries = useQueryClient()
  const query = useQuery({
    queryKey: computed(() => [
      'papers',
      opened.id,
      opened.view.revisions,
      opened.view.job.log?.length,
      opened.kept.length,
    ]),
    queryFn: () => ask(client.GET('/api/jobs/{job}/papers', { params: { path: { job: opened.id } } })),
    placeholderData: (old: Schemas['PapersView'] | undefined) => old,
  })
  const { attempt: attempted, told, wrong } = useAttempt()

  /** Runs something and says how it went. */
  const attempt = (what: () => Promise<unknown>, done: string) =>
    attempted(async () => {
      await what()
      await queries.invalidateQueries({ queryKey: ['papers', opened.id] })
    }, done)
  const take = (revision: number) =>
    attempt(
      async () =>
        opened.accept(
          await ask(
            client.POST('/api/jobs/{job}/papers', { params: { path: { job: opened.id } }, body: { revision } }),
          ),
        ),
      'Taken over.',
    )
  const send = (paper: string, anyway: string) =>
    attempt(
      async () =>
        opened.accept(
          await ask(
            client.POST('/api/jobs/{job}/papers/{paper}/send', {
              params: { path: { job: opened.id, paper } },
              body: { anyway: anyway || undefined },
            }),
          ),
        ),
      'Sent.',
    )
  const fetchAnswers = () =>
    attempt(async () => {
      await ask(client.POST('/api/papers/answers'))
      await opened.refresh()
    }, 'Asked; what came back stands on the papers.')
  return { query, told, wrong, attempt, take, send, fetchAnswers }
}

export const stateWords: Record<Schemas['Span']['state'], string> = {
  undecided: 'needed or not?',
  'not-needed': 'not needed',
  'to-send': 'to be sent',
  'sent-back': 'sent back, mend it',
  waiting: 'sent, waiting',
  overdue: 'overdue, ask',
  answered: 'answered',
  'put-aside': 'put aside',
}
