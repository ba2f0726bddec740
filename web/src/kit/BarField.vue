<script setup lang="ts" generic="T extends string | number">
import FieldFrame from './FieldFrame.vue'

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
    <span :id="id" class="bars" role="group" :aria-label="label">
      <button
        v-for="o in options"
        :key="o.value"
        type="button"
        :class="{ on: model === o.value }"
        :aria-pressed="model === o.value"
        :disabled="disabled"
        :data-value="o.value"
        @click="toggle(o.value)"
      >
        <span aria-hidden="true">{{ model === o.value ? '●' : '○' }}</span> {{ o.text }}
      </button>
    </span>
  </FieldFrame>
</template>

<style scoped>
.bars {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
button {
  font: inherit;
  flex: 1;
  min-height: var(--tap);
  padding: 0 8px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--field);
  color: var(--ink2);
  cursor: pointer;
  white-space: nowrap;
}
button.on {
  border-color: var(--copper);
  background: var(--copper-soft);
  color: var(--ink);
  font-weight: 600;
}
</style>
