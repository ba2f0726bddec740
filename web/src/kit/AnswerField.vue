<script setup lang="ts">
import { computed } from 'vue'
import BarField from './BarField.vue'

/** A question with yes or no. */
const props = defineProps<{
  name: string
  label: string
  hint?: string
  disabled?: boolean
  yes?: string
  no?: string
}>()
const model = defineModel<'yes' | 'no'>()
const options = computed(() => [
  { value: 'yes' as const, text: props.yes ?? 'yes' },
  { value: 'no' as const, text: props.no ?? 'no' },
])
</script>

<template>
  <BarField v-model="model" :name="name" :label="label" :hint="hint" :disabled="disabled" :options="options" />
</template>
