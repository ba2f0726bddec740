<script setup lang="ts" generic="T extends string | number">
import FieldFrame from './FieldFrame.vue'

/** One of a few values. The empty choice is "not known yet". */
const props = defineProps<{
  name: string
  label: string
  options: { value: T; text: string }[]
  hint?: string
  empty?: string
  disabled?: boolean
  wide?: boolean
}>()
const model = defineModel<T>()
function change(e: Event) {
  const raw = (e.target as HTMLSelectElement).value
  model.value = props.options.find((o) => String(o.value) === raw)?.value
}
</script>

<template>
  <FieldFrame v-slot="{ id, bad }" :name="name" :label="label" :hint="hint" :wide="wide">
    <select :id="id" :value="model ?? ''" :disabled="disabled" :aria-invalid="bad" @change="change">
      <option value="">{{ empty ?? 'not known yet' }}</option>
      <option v-for="o in options" :key="o.value" :value="o.value">{{ o.text }}</option>
    </select>
  </FieldFrame>
</template>
