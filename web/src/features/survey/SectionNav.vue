<script setup lang="ts">
import type { Schemas } from '@/api/client'
import PushButton from '@/kit/PushButton.vue'
import type { SectionId } from './shape'

/** The sections of the survey, each with a ring that closes as it is answered. */
defineProps<{ sections: Schemas['Section'][]; doorstep: boolean }>()
const part = defineModel<SectionId | 'doorstep'>({ required: true })
const around = 2 * Math.PI * 8
const share = (s: Schemas['Section']) => (s.total ? s.done / s.total : 0)
</script>

<template>
  <nav class="sections" aria-label="Sections of the survey">
    <PushButton
      kind="own"
      v-if="doorstep"
      :class="{ on: part === 'doorstep' }"
      :aria-current="part === 'doorstep' ? 'true' : undefined"
      data-section="doorstep"
      @click="part = 'doorstep'"
    >
      On one page
    </PushButton>
    <PushButton
      kind="own"
      v-for="s in sections"
      :key="s.id"
      :class="{ on: s.id === part }"
      :aria-current="s.id === part ? 'true' : undefined"
      :data-section="s.id"
      :data-complete="s.done === s.total"
      @click="part = s.id"
    >
      <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true">
        <circle cx="11" cy="11" r="8" class="track" />
        <circle
          cx="11"
          cy="11"
          r="8"
          class="done"
          :class="{ whole: s.done === s.total }"
          :stroke-dasharray="`${around * share(s)} ${around}`"
          transform="rotate(-90 11 11)"
        />
        <path v-if="s.done === s.total" d="M7.5 11h7" class="tick" />
      </svg>
      <span>{{ s.title }}</span>
      <span class="mono count">{{ s.done }}/{{ s.total }}</span>
    </PushButton>
  </nav>
</template>

<style scoped>
.sections {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  margin-top: 10px;
}
button {
  font: inherit;
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: var(--tap);
  padding: 0 10px 0 6px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: none;
  color: var(--ink2);
  cursor: pointer;
  white-space: nowrap;
}
.on {
  border-color: var(--copper);
  background: var(--copper-soft);
  color: var(--ink);
  font-weight: 600;
}
circle {
  fill: none;
  stroke-width: 3;
}
.track {
  stroke: var(--line);
}
.done {
  stroke: var(--open);
}
.whole,
.tick {
  stroke: var(--sound);
  stroke-width: 3;
}
.count {
  font-size: 12px;
  color: var(--slate);
  font-weight: 400;
}
@media (max-width: 719px) {
  .sections {
    flex-wrap: nowrap;
    overflow-x: auto;
    margin: 10px -14px 0;
    padding: 0 14px 4px;
  }
}
</style>
