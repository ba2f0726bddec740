<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** A bolt of the spine: hollow, part-turned, tight, tight with something to weigh, or crossed. */
withDefaults(defineProps<{ state: Schemas['Bolt']['state']; here?: boolean; size?: number }>(), { size: 40 })
const hexagon = 'M11 5h18l9 15-9 15H11L2 20z'
const words = {
  hollow: 'nothing yet',
  part: 'begun, something open',
  tight: 'tight',
  watch: 'tight, something to weigh',
  crossed: 'something stops',
}
</script>

<template>
  <svg :width="size" :height="size" viewBox="0 0 40 40" :class="['bolt', state, { here }]" role="img">
    <title>{{ words[state] }}</title>
    <path :d="hexagon" class="body" />
    <path v-if="state === 'watch'" d="M2 20h36l-9 15H11z" class="half" />
    <path v-if="state === 'tight'" d="M12 20h16" class="cut" />
    <path v-if="state === 'part'" d="M14 25l12-9" class="slot" />
    <path v-if="state === 'crossed'" d="M14 14l12 12M26 14L14 26" class="cut" />
  </svg>
</template>

<style scoped>
.body {
  stroke-width: 3;
  fill: var(--bolt-ground, var(--spine));
  stroke: var(--open);
}
.hollow .body {
  stroke-dasharray: 5.5 3.5;
}
.part .body,
.part .slot {
  stroke: var(--copper);
}
.slot,
.cut {
  stroke-width: 3.4;
  stroke-linecap: round;
}
.tight .body {
  fill: var(--sound);
  stroke: var(--sound);
}
.watch .body {
  fill: var(--watch-soft);
  stroke: var(--watch-mark);
}
.half {
  fill: var(--watch-mark);
}
.crossed .body {
  fill: var(--stop);
  stroke: var(--stop);
}
.cut {
  stroke: var(--card);
}
</style>
