import { ask, client, fileBody, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'

/** Keeps files with the opened job. */
export function useFiles() {
  const opened = useJob()
  const { attempt, wrong } = useAttempt()
  async function keep(file: File): Promise<Schemas['FileFacts'] | undefined> {
    let kept: Schemas['FileFacts'] | undefined
    const params = { path: { job: opened.id }, query: { name: file.name } }
    const body = fileBody(file, 'application/octet-stream')
    const put = async () => (kept = await ask(client.POST('/api/jobs/{job}/files', { params, ...body })))
    await attempt(put, '', `${file.name}: `)
    return kept
  }
  /** Prints the package of the design and keeps it as a file. */
  async function make(): Promise<Schemas['FileFacts'] | undefined> {
    let kept: Schemas['FileFacts'] | undefined
    const params = { path: { job: opened.id } }
    await attempt(async () => (kept = await ask(client.POST('/api/jobs/{job}/package', { params }))))
    return kept
  }
  return { wrong, keep, make }
}
