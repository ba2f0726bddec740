<script setup lang="ts">
import TextField from './TextField.vue'

/** A time of day such as 07:30; an emptied field is not known, never an empty text. */
defineProps<{ name: string; label: string }>()
const model = defineModel<string>()
</script>

<template>
  <TextField
    :model-value="model"
    :name="name"
    :label="label"
    type="time"
    @update:model-value="(t) => (model = t || undefined)"
  />
</template>
