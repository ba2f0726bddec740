<script setup lang="ts">
import { nextTick, useTemplateRef } from 'vue'
import PushButton from './PushButton.vue'

/** The charging points of a job, chosen by a press or the arrow keys; with one point there is nothing to choose. */
const props = defineProps<{ points: string[]; panel: string }>()
const point = defineModel<string>()
const tabs = useTemplateRef('tabs')
const step: Record<string, (at: number) => number> = {
  ArrowRight: (at) => at + 1,
  ArrowLeft: (at) => at - 1,
  Home: () => 0,
  End: () => -1,
}
function walk(e: KeyboardEvent) {
  const to = step[e.key]?.(props.points.indexOf(point.value ?? ''))
  if (to === undefined) return
  e.preventDefault()
  point.value = props.points.at(to % props.points.length)
  void nextTick(() => tabs.value?.querySelector<HTMLElement>('[aria-selected="true"]')?.focus())
}
</script>

<template>
  <span v-if="points.length > 1" ref="tabs" class="tabs" role="tablist" aria-label="Charging point" @keydown="walk">
    <PushButton
      kind="own"
      v-for="p in points"
      :key="p"
      role="tab"
      :aria-selected="p === point"
      :aria-controls="panel"
      :tabindex="p === point ? 0 : -1"
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
