<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import VerdictMark from '@/kit/VerdictMark.vue'

/** What the papers hold up, event by event, in the order of work. */
const props = defineProps<{ blocking: Record<string, Schemas['Blocker'][]> }>()
const events = [
  ['order', 'Order parts'],
  ['booking', 'Set a day'],
  ['installing', 'Begin work'],
  ['covering', 'Cover up'],
  ['energising', 'Switch on'],
  ['sealing', 'Seal'],
] as const
/** Each event with what holds up just this one: the rest is named before. */
const list = computed(() =>
  events.map(([id, title]) => ({
    id,
    title,
    free: !props.blocking[id]?.length,
    own: (props.blocking[id] ?? []).filter((b) => b.before === id),
  })),
)
</script>

<template>
  <ol class="held" aria-label="What the papers hold up">
    <li v-for="e in list" :key="e.id" :data-held="e.id" :data-free="e.free">
      <span class="row head"><VerdictMark :verdict="e.free ? 'sound' : 'open'" :size="16" /> {{ e.title }}</span>
      <span v-for="b in e.own" :key="b.paper" class="why">{{ b.title }}: {{ b.why }}</span>
      <span v-if="!e.own.length" class="why">{{ e.free ? 'nothing waits' : 'waits for what is before it' }}</span>
    </li>
  </ol>
</template>

<style scoped>
.held {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
li {
  padding: 8px 10px;
  border-left: 1px solid var(--line);
}
li:first-child {
  border-left: 0;
}
.head {
  gap: 6px;
  font-weight: 600;
  font-size: 13px;
}
.why {
  display: block;
  font-size: 12px;
  color: var(--slate);
  margin-top: 3px;
}
@media (max-width: 1023px) {
  .held {
    grid-template-columns: 1fr 1fr 1fr;
  }
}
@media (max-width: 719px) {
  .held {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
