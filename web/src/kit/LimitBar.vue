<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas, Verdict } from '@/api/client'

/** A value against its limits: the ground that meets is tinted, ticks are the limits, the thick bar is the value. */
const props = defineProps<{ gauge?: Schemas['Gauge']; verdict?: Verdict }>()

const scale = computed(() => {
  const g = props.gauge
  if (!g || (g.low === undefined && g.high === undefined)) return undefined
  const { low, high, value } = g
  const both = low !== undefined && high !== undefined
  // A band fills the middle half; a single limit sits at two thirds (most) or one fifth (least) of the bar.
  const span = both ? Math.max(high - low, high * 0.02) * 2 : high !== undefined ? high * 1.5 || 1 : low! * 5
  const start = both ? low - span / 4 : 0
  const place = (v: number) => Math.min(Math.max((v - start) / span, 0), 0.985) * 100
  return {
    low: low === undefined ? undefined : place(low),
    high: high === undefined ? undefined : place(high),
    value: value === undefined ? undefined : place(value),
  }
})
const label = computed(() => {
  const g = props.gauge
  if (!g) return ''
  const parts = []
  if (g.value !== undefined) parts.push(`${g.value} ${g.unit ?? ''}`)
  if (g.low !== undefined) parts.push(`at least ${g.low}`)
  if (g.high !== undefined) parts.push(`at most ${g.high}`)
  return parts.join(', ')
})
</script>

<template>
  <svg v-if="scale" class="bar" :class="verdict" viewBox="0 0 100 14" preserveAspectRatio="none" role="img">
    <title>{{ label }}</title>
    <rect x="0" y="4.5" width="100" height="5" class="ground" />
    <rect
      :x="scale.low ?? 0"
      y="4.5"
      :width="Math.max((scale.high ?? 100) - (scale.low ?? 0), 0)"
      height="5"
      class="meets"
    />
    <rect v-if="scale.low !== undefined" :x="scale.low" y="0" width="0.9" height="14" class="tick" />
    <rect v-if="scale.high !== undefined" :x="scale.high" y="0" width="0.9" height="14" class="tick" />
    <rect v-if="scale.value !== undefined" :x="scale.value - 0.9" y="1" width="2.6" height="12" class="value" />
  </svg>
</template>

<style scoped>
.bar {
  display: block;
  width: 100%;
  height: 14px;
}
.ground {
  fill: var(--line);
  opacity: 0.6;
}
.meets {
  fill: var(--sound-soft);
}
.tick {
  fill: var(--ink);
}
.value {
  fill: var(--open);
}
.sound .value {
  fill: var(--sound);
}
.watch .value {
  fill: var(--watch-mark);
}
.stop .value {
  fill: var(--stop);
}
</style>
