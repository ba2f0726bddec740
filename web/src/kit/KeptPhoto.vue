<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from 'vue'
import { waiting } from '@/kept/outbox'
import { pending } from '@/kept/store'

/** A photo of a job: from the server, or from this device while it was not sent. */
const props = defineProps<{ job: string; digest: string; alt: string }>()
const local = ref('')
const looked = ref(false)
const forget = () => {
  if (local.value) URL.revokeObjectURL(local.value)
  local.value = ''
}
watch(
  [() => props.digest, waiting],
  async () => {
    const item = (await pending(props.job)).find((i) => i.photo?.digest === props.digest)
    forget()
    if (item?.photo) local.value = URL.createObjectURL(item.photo.blob)
    looked.value = true
  },
  { immediate: true },
)
onBeforeUnmount(forget)
</script>

<template>
  <a v-if="looked" :href="local || `api/jobs/${job}/photos/${digest}`" target="_blank">
    <img :src="local || `api/jobs/${job}/photos/${digest}`" :alt="alt" :data-local="!!local" loading="lazy" />
    <span v-if="local" class="mark">○ kept here</span>
  </a>
</template>

<style scoped>
img {
  width: 100%;
  aspect-ratio: 4 / 3;
  object-fit: cover;
  display: block;
  border: 1px solid var(--line);
}
.mark {
  font-size: 12px;
}
</style>
