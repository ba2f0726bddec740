<script setup lang="ts">
import { computed } from 'vue'
import { useCountry } from '@/composables/useCountry'
import type { extent } from './plan'

/** What lies under a plan: its grid in the country's unit, where it is measured from, and its scale bar. */
const props = defineProps<{ box: ReturnType<typeof extent>; k: number }>()
const { page } = useCountry()
const width = computed(() => props.box.right - props.box.left)
const height = computed(() => props.box.top - props.box.bottom)
const scale = computed(() => {
  const { bar, length } = page.value.units
  return { m: bar * length.size, text: `${bar} ${length.symbol}` }
})
/** The lines of the grid between two ends, from the first of them. */
function between(from: number, to: number) {
  const lines: number[] = []
  for (let i = Math.ceil(from / scale.value.m); i * scale.value.m < to; i++) lines.push(i * scale.value.m - from)
  return lines
}
const across = computed(() => between(props.box.left, props.box.right))
const up = computed(() => between(props.box.bottom, props.box.top).map((v) => height.value - v))
const zero = computed(() => ({ x: -props.box.left, y: props.box.top }))
const seen = computed(() => props.box.left <= 0 && props.box.bottom <= 0 && props.box.right > 0 && props.box.top > 0)
</script>

<template>
  <g class="grid">
    <line v-for="v in across" :key="`x${v}`" :x1="v" y1="0" :x2="v" :y2="height" />
    <line v-for="v in up" :key="`y${v}`" x1="0" :y1="v" :x2="width" :y2="v" />
  </g>
  <g v-if="seen" class="origin" data-origin>
    <line x1="0" :y1="zero.y" :x2="width" :y2="zero.y" />
    <line :x1="zero.x" y1="0" :x2="zero.x" :y2="height" />
    <text :x="zero.x + 0.12 * k" :y="zero.y - 0.14 * k" :style="{ fontSize: `${0.3 * k}px` }">0</text>
  </g>
  <text :x="width - 0.4 - scale.m / 2" :y="height - 0.45" class="mid" :style="{ fontSize: `${0.32 * k}px` }">
    {{ scale.text }}
  </text>
  <line :x1="width - 0.4 - scale.m" :y1="height - 0.3" :x2="width - 0.4" :y2="height - 0.3" class="scale" />
</template>

<style scoped>
line {
  vector-effect: non-scaling-stroke;
}
.grid {
  stroke: var(--line);
  stroke-width: 0.6;
  opacity: 0.7;
}
.origin {
  stroke: var(--slate);
  stroke-width: 0.8;
  opacity: 0.7;
}
.origin text {
  fill: var(--slate);
  stroke: none;
}
.scale {
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  font-family: 'Plex Sans', sans-serif;
  fill: var(--ink);
  pointer-events: none;
}
.mid {
  text-anchor: middle;
}
</style>
