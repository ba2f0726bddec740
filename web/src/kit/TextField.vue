<script setup lang="ts">
import FieldFrame from './FieldFrame.vue'

defineProps<{
  name: string
  label: string
  hint?: string
  type?: string
  wide?: boolean
  disabled?: boolean
  mono?: boolean
  autocomplete?: string
  error?: string
}>()
const model = defineModel<string>()
</script>

<template>
  <FieldFrame v-slot="{ id, bad }" :name="name" :label="label" :hint="hint" :wide="wide" :error="error">
    <input
      :id="id"
      v-model="model"
      :type="type ?? 'text'"
      :class="{ mono }"
      :disabled="disabled"
      :aria-invalid="bad"
      :autocomplete="autocomplete ?? 'off'"
    />
  </FieldFrame>
</template>
