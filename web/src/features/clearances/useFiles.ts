import { ref } from 'vue'
import { ask, client, fileBody, type Schemas } from '@/api/client'
import { useJob } from '@/composables/useJob'

/** Keeps files with the opened job. */
export function useFiles() {
  const opened = useJob()
  const error = ref('')
  async function keep(file: File): Promise<Schemas['FileFacts'] | undefined> {
    error.value = ''
    try {
      return await ask(
        client.POST('/api/jobs/{job}/files', {
          params: { path: { job: opened.id }, query: { name: file.name } },
          ...fileBody(file, 'application/octet-stream'),
        }),
      )
    } catch (e) {
      error.value = `${file.name}: ${(e as Error).message}`
    }
  }
  return { error, keep }
}
