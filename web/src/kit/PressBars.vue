<script setup lang="ts" generic="T extends string | number">
/** A few values, each a bar to press. */
defineProps<{ options: readonly { value: T; text: string }[]; label: string; chosen?: T; disabled?: boolean }>()
defineEmits<{ press: [T] }>()
</script>

<template>
  <span class="bars" role="group" :aria-label="label">
    <button
      v-for="o in options"
      :key="o.value"
      type="button"
      :class="{ on: chosen === o.value }"
      :aria-pressed="chosen === o.value"
      :disabled="disabled"
      :data-value="o.value"
      @click="$emit('press', o.value)"
    >
      <span aria-hidden="true">{{ chosen === o.value ? '●' : '○' }}</span> {{ o.text }}
    </button>
  </span>
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
