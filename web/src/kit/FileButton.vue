<script setup lang="ts">
/** A button that asks for a file, or with `camera` for pictures, which a phone takes at once. */
const props = defineProps<{ accept?: string; main?: boolean; plain?: boolean; camera?: boolean; many?: boolean }>()
const emit = defineEmits<{ chosen: [File]; all: [File[]] }>()
function choose(e: Event) {
  const input = e.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  if (files.length) emit('all', files)
  for (const f of files.slice(0, props.many ? undefined : 1)) emit('chosen', f)
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
      class="sr"
      @change="choose"
    />
  </label>
</template>
