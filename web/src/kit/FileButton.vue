<script setup lang="ts">
/** A button that asks for one file. */
defineProps<{ accept: string; main?: boolean; plain?: boolean }>()
const emit = defineEmits<{ chosen: [File] }>()
function choose(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  if (file) emit('chosen', file)
  input.value = '' // the same file may be chosen again
}
</script>

<template>
  <label class="btn" :class="{ main, plain }">
    <slot />
    <input type="file" :accept="accept" class="sr" @change="choose" />
  </label>
</template>
