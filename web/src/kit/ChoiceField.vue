<script setup lang="ts" generic="T extends string | number">
import FieldFrame from './FieldFrame.vue'
import ListField from './ListField.vue'

/** One of a few values. The empty choice is "not known yet". */
defineProps<{
  name: string
  label: string
  options: { value: T; text: string }[]
  hint?: string
  empty?: string
  disabled?: boolean
  wide?: boolean
}>()
const model = defineModel<T>()
</script>

<template>
  <FieldFrame v-slot="{ id, bad }" :name="name" :label="label" :hint="hint" :wide="wide">
    <ListField
      :id="id"
      v-model="model"
      :options="options"
      :empty="empty ?? 'not known yet'"
      :disabled="disabled"
      :aria-invalid="bad"
    />
  </FieldFrame>
</template>
