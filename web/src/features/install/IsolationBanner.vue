<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import VerdictMark from '@/kit/VerdictMark.vue'
import { momentText } from '@/kit/dates'

/** Whether the board is proved dead, at a glance and in words. */
const props = defineProps<{ isolation: Schemas['Isolation'] }>()
const say = computed(() => {
  const i = props.isolation
  if (i.proved) return { verdict: 'sound' as const, text: `Dead proved ${momentText(i.at!)} by ${i.by}` }
  if (i.slept)
    return {
      verdict: 'stop' as const,
      text: 'The log was silent for too long: nobody knows who was at the board. Prove dead again.',
    }
  if (i.energised) return { verdict: 'watch' as const, text: 'Energised. Prove dead again before any inside work.' }
  if (i.live?.length) return { verdict: 'stop' as const, text: `Not dead: ${i.live.join(', ')}` }
  return { verdict: 'open' as const, text: 'Dead not proved. Treat everything as live.' }
})
</script>

<template>
  <p class="state" :class="say.verdict" role="status" data-field="install.isolation">
    <VerdictMark :verdict="say.verdict" :size="22" /> <b>{{ say.text }}</b>
  </p>
</template>

<style scoped>
.state {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-top: 12px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.stop {
  background: var(--stop-soft);
  border-color: var(--stop);
}
</style>
