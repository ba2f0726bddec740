<script setup lang="ts">
import { computed } from 'vue'
import type { Verdict } from '@/api/client'

const props = withDefaults(defineProps<{ verdict: Verdict; size?: number }>(), { size: 18 })
const words: Record<Verdict, string> = { sound: 'meets', watch: 'to weigh', stop: 'does not meet', open: 'open' }
const label = computed(() => words[props.verdict])
</script>

<template>
  <svg :width="size" :height="size" viewBox="0 0 20 20" class="mark" :class="verdict" role="img" :aria-label="label">
    <title>{{ label }}</title>
    <template v-if="verdict === 'open'">
      <circle cx="10" cy="10" r="7" fill="none" stroke-width="1.8" stroke-dasharray="2.6 1.9" />
    </template>
    <template v-else-if="verdict === 'watch'">
      <path d="M5.6 2.4h8.8L18.8 10l-4.4 7.6H5.6L1.2 10z" class="soft" stroke-width="1.6" />
      <path d="M1.2 10h17.6l-4.4 7.6H5.6z" class="fill" />
    </template>
    <template v-else>
      <path d="M5.6 2.4h8.8L18.8 10l-4.4 7.6H5.6L1.2 10z" class="fill" />
      <path v-if="verdict === 'sound'" d="M6 10h8" class="cut" />
      <path v-else d="M7 7l6 6M13 7l-6 6" class="cut" />
    </template>
  </svg>
</template>

<style scoped>
.mark {
  flex: none;
  display: block;
}
.open {
  stroke: var(--open);
}
.sound .fill {
  fill: var(--sound);
}
.stop .fill {
  fill: var(--stop);
}
.watch .fill {
  fill: var(--watch-mark);
}
.watch .soft {
  fill: var(--watch-soft);
  stroke: var(--watch-mark);
}
.cut {
  stroke: var(--card);
  stroke-width: 2;
  stroke-linecap: round;
}
</style>
