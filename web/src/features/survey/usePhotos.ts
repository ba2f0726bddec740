import { ref, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useJob } from '@/composables/useJob'
import { keepPhoto } from '@/kept/press'
import { smaller } from './photo'

type Kind = Schemas['Photo']['kind']

/** Takes photos of a survey: made smaller, kept on this device, and named by the survey. */
export function usePhotos(photos: Ref<Schemas['Photo'][]>, kept: () => void) {
  const opened = useJob()
  const busy = ref<Kind>()
  const error = ref('')
  async function take(kind: Kind, files: File[]) {
    error.value = ''
    busy.value = kind
    for (const file of files) {
      try {
        const digest = await keepPhoto(opened.view, await smaller(file))
        if (!photos.value.some((p) => p.digest === digest)) photos.value.push({ digest, kind })
        window.setTimeout(kept)
      } catch (err) {
        error.value = `${file.name}: ${(err as Error).message}`
      }
    }
    busy.value = undefined
  }
  return { busy, error, take, job: opened.id }
}
