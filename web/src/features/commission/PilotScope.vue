<script setup lang="ts">
import { computed } from 'vue'

/** The control pilot as a scope shows it: three milliseconds at 1 kHz, upper and lower level, width by the duty. */
const props = defineProps<{ high: number; low: number; duty: number }>()
const width = 420
const height = 190
const left = 44
const ms = (width - left - 10) / 3
const y = (volts: number) => 95 - volts * 5.6
const path = computed(() => {
  if (!props.duty) return `M${left} ${y(props.high)}H${width - 10}`
  const on = (props.duty / 100) * ms
  return [0, 1, 2]
    .map((i) => {
      const x = left + i * ms
      return `${i ? 'L' : 'M'}${x} ${y(props.low)}V${y(props.high)}H${x + on}V${y(props.low)}H${x + ms}`
    })
    .join('')
})
const volts = (v: number) => `${v < 0 ? '−' : ''}${Math.abs(v)} V`
const words = computed(() =>
  props.duty
    ? `${volts(props.high)} and ${volts(props.low)}, ${props.duty.toFixed(1)} % of each millisecond`
    : `steady ${volts(props.high)}`,
)
</script>

<template>
  <svg
    class="drawing"
    :viewBox="`0 0 ${width} ${height}`"
    role="img"
    :aria-label="`Control pilot: ${words}`"
    data-scope
  >
    <rect :x="left" y="14" :width="width - left - 10" height="162" class="screen" />
    <g v-for="v in [12, 9, 6, 3, 0, -12]" :key="v">
      <line :x1="left" :x2="width - 10" :y1="y(v)" :y2="y(v)" class="grid" />
      <text :x="left - 6" :y="y(v) + 4" text-anchor="end">{{ volts(v) }}</text>
    </g>
    <line v-for="i in 2" :key="i" :x1="left + i * ms" :x2="left + i * ms" y1="14" y2="176" class="grid" />
    <path :d="path" class="trace" />
    <text :x="width - 12" y="187" text-anchor="end">1 ms a square</text>
    <text :x="left" y="10">{{ words }}</text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 460px;
}
.screen {
  fill: var(--field);
  stroke: var(--slate);
}
.grid {
  stroke: var(--line);
  stroke-dasharray: 2 4;
}
.trace {
  fill: none;
  stroke: var(--copper);
  stroke-width: 2.2;
}
text {
  font-size: 11px;
  fill: var(--ink);
}
</style>
