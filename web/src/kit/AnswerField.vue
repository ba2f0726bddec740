<script setup lang="ts">
import FieldFrame from './FieldFrame.vue'

/** A question with yes or no; pressing the chosen one again takes the answer back. */
const props = defineProps<{
  name: string
  label: string
  hint?: string
  disabled?: boolean
  yes?: string
  no?: string
}>()
const model = defineModel<'yes' | 'no'>()
const toggle = (v: 'yes' | 'no') => (model.value = model.value === v ? undefined : v)
const words = { yes: props.yes ?? 'yes', no: props.no ?? 'no' }
</script>

<template>
  <FieldFrame v-slot="{ id }" :name="name" :label="label" :hint="hint">
    <span :id="id" class="pair" role="group" :aria-label="label">
      <button
        v-for="v in ['yes', 'no'] as const"
        :key="v"
        type="button"
        :class="{ on: model === v }"
        :aria-pressed="model === v"
        :disabled="disabled"
        @click="toggle(v)"
      >
        <span aria-hidden="true">{{ model === v ? '●' : '○' }}</span> {{ words[v] }}
      </button>
    </span>
  </FieldFrame>
</template>

<style scoped>
.pair {
  display: flex;
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
}
button.on {
  border-color: var(--copper);
  background: var(--copper-soft);
  color: var(--ink);
  font-weight: 600;
}
</style>
