<script setup lang="ts" generic="T extends string | number">
import FieldFrame from './FieldFrame.vue'
import PressBars from './PressBars.vue'

/** One of a few values, each a bar to press; pressing the chosen one again takes the answer back. */
defineProps<{
  name: string
  label: string
  options: { value: T; text: string }[]
  hint?: string
  disabled?: boolean
  wide?: boolean
}>()
const model = defineModel<T>()
const toggle = (v: T) => (model.value = model.value === v ? undefined : v)
</script>

<template>
  <FieldFrame v-slot="{ id }" :name="name" :label="label" :hint="hint" :wide="wide">
    <PressBars :id="id" :options="options" :label="label" :chosen="model" :disabled="disabled" @press="toggle" />
  </FieldFrame>
</template>
