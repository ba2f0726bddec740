<script setup lang="ts">
/** A button that asks for a file, or with `camera` for pictures, which a phone takes at once. */
defineProps<{ accept?: string; main?: boolean; plain?: boolean; camera?: boolean; many?: boolean }>()
const emit = defineEmits<{ chosen: [first: File, all: File[]] }>()
function choose(e: Event) {
  const input = e.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  if (files.length) emit('chosen', files[0], files)
  input.value = '' // the same file may be chosen again
}
</script>

<template>
  <label class="btn" :class="{ main, plain }">
    <slot />
    <input
      type="file"
      :accept="accept ?? 'image/jpeg,image/png'"
      :capture="camera ? 'environment' : undefined"
      :multiple="many"
      class="unseen"
      @change="choose"
    />
  </label>
</template>
