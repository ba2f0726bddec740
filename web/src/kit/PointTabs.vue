<script setup lang="ts">
import PushButton from './PushButton.vue'

/** The charging points of a job; with one point there is nothing to choose. */
defineProps<{ points: string[] }>()
const point = defineModel<string>()
</script>

<template>
  <span v-if="points.length > 1" class="tabs" role="tablist">
    <PushButton
      kind="own"
      v-for="p in points"
      :key="p"
      role="tab"
      :aria-selected="p === point"
      :class="{ on: p === point }"
      @click="point = p"
    >
      {{ p }}
    </PushButton>
  </span>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 4px;
}
button {
  font: inherit;
  min-width: 40px;
  min-height: var(--tap);
  border: 1px solid var(--line);
  background: none;
  color: var(--ink2);
  border-radius: 3px;
  cursor: pointer;
}
.on {
  border-color: var(--copper);
  background: var(--copper-soft);
  color: var(--ink);
  font-weight: 600;
}
</style>
