<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** One limit of an option: the figure, a bar as long as the value, a tick at the limit. */
const props = defineProps<{ bar: Schemas['Bar'] }>()
const share = computed(() => {
  const span = props.bar.limit * (props.bar.least ? 2 : 1.5) || 1
  return { value: Math.min(props.bar.value / span, 1) * 100, limit: (props.bar.limit / span) * 100 }
})
const figure = computed(() => (props.bar.value >= 10 ? props.bar.value.toFixed(1) : props.bar.value.toFixed(2)))
</script>

<template>
  <div class="bar" :class="{ fails: !bar.meets }">
    <span class="mono">{{ figure }}<template v-if="!bar.meets"> ×</template></span>
    <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
      <rect width="100" height="4" y="3" class="ground" />
      <rect :width="share.value" height="4" y="3" class="value" />
      <rect :x="share.limit" width="1.2" height="10" class="tick" />
    </svg>
  </div>
</template>

<style scoped>
.bar {
  min-width: 72px;
}
svg {
  display: block;
  width: 100%;
  height: 10px;
}
.ground {
  fill: var(--line);
  opacity: 0.6;
}
.value {
  fill: var(--sound);
}
.tick {
  fill: var(--ink);
}
.fails .value {
  fill: var(--stop);
}
.fails .mono {
  color: var(--stop);
}
</style>
