<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { photoKinds } from '../options'
import { usePhotos } from './usePhotos'
import FileButton from '@/kit/FileButton.vue'

/** Asks for one photo, beside the questions that it answers. */
const props = defineProps<{ kind: Schemas['Photo']['kind'] }>()
const photos = defineModel<Schemas['Photo'][]>({ required: true })
const emit = defineEmits<{ kept: [] }>()
const { busy, error, take } = usePhotos(photos, () => emit('kept'))
const what = computed(() => photoKinds.find((k) => k.value === props.kind)?.text ?? props.kind)
const taken = computed(() => photos.value.filter((p) => p.kind === props.kind).length)
</script>

<template>
  <FileButton
    plain
    camera
    many
    class="ask"
    :class="{ taken }"
    :data-photo-of="kind"
    @chosen="(_, files) => take(kind, files)"
  >
    <span aria-hidden="true">{{ taken ? '●' : '○' }}</span>
    {{ busy ? 'keeping…' : taken ? `${what}: ${taken} taken` : `Photo: ${what}` }}
  </FileButton>
  <span v-if="error" class="error" role="alert">{{ error }}</span>
</template>

<style scoped>
.ask {
  justify-content: flex-start;
  align-self: end;
  gap: 8px;
}
.taken {
  background: var(--copper-soft);
}
</style>
