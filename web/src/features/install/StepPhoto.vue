<script setup lang="ts">
import { computed } from 'vue'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { digestOf } from '@/kept/press'
import FileButton from '@/kit/FileButton.vue'
import KeptPhoto from '@/kit/KeptPhoto.vue'
import TakeBack from '../TakeBack.vue'
import { smaller } from '../survey/photo'

/** Pictures of a step: asked for where it is covered up afterwards. */
const props = defineProps<{ step: string; point?: string; asked: boolean; off: boolean }>()
const opened = useJob()
const { attempt, wrong: error, busy } = useAttempt()
const photos = computed(
  () =>
    opened.standing.filter(
      (e) => e.kind === 'photo' && e.subject === props.step && (e.point ?? '') === (props.point ?? ''),
    ) ?? [],
)
async function take(file: File) {
  const { step, point } = props
  await attempt(async () => {
    // The picture and what the log says of it are kept together, whatever the page does meanwhile.
    const blob = await smaller(file)
    const digest = await digestOf(blob)
    const entry = { kind: 'photo' as const, subject: step, point: point || undefined, value: digest }
    await opened.log([entry], { digest, blob })
  })
}
</script>

<template>
  <div class="pictures">
    <figure v-for="p in photos" :key="p.id">
      <KeptPhoto :job="opened.id" :digest="p.value!" alt="Photo of this step" />
      <TakeBack :entry="p" :off="off" />
    </figure>
    <FileButton v-if="!off" plain camera data-photo @chosen="take">
      {{ busy ? 'keeping…' : photos.length ? 'One more photo' : asked ? 'Photo, asked for' : 'Photo' }}
    </FileButton>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
  </div>
</template>

<style scoped>
.pictures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(120px, 1fr));
  gap: 8px;
  align-items: start;
}
figure {
  margin: 0;
}
.error {
  grid-column: 1 / -1;
  color: var(--stop);
  font-weight: 600;
}
</style>
