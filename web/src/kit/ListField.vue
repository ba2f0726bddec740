<script setup lang="ts" generic="T extends string | number">
/** One of a list, without a frame: what stands beside it says what it is, or `label` says it to who hears the page. */
const props = defineProps<{ options: readonly { value: T; text: string }[]; label?: string; empty?: string }>()
const model = defineModel<T>()
function change(e: Event) {
  const raw = (e.target as HTMLSelectElement).value
  model.value = props.options.find((o) => String(o.value) === raw)?.value
}
</script>

<template>
  <!-- The browser's own list: on a phone it is the phone's picker, under the thumb. -->
  <select :value="model ?? ''" :aria-label="label" @change="change">
    <option v-if="empty !== undefined" value="">{{ empty }}</option>
    <option v-for="o in options" :key="o.value" :value="o.value">{{ o.text }}</option>
  </select>
</template>
