<script setup lang="ts">
import type { Schemas } from '@/api/client'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import CarriedJob from './CarriedJob.vue'

/** Jobs that want a day, with what speaks against any day. */
defineProps<{ jobs: Schemas['InLine'][]; held?: string }>()
const emit = defineEmits<{ lift: [job: Schemas['InLine']]; put: [job: Schemas['InLine'], cell: string] }>()
const verdict = (j: Schemas['InLine']) =>
  j.stops.some((r) => r.verdict === 'never') ? 'stop' : j.stops.length ? 'watch' : 'sound'
</script>

<template>
  <aside class="card" aria-label="Jobs that want a day">
    <h2 class="minor">{{ jobs.length }} {{ jobs.length === 1 ? 'job wants' : 'jobs want' }} a day</h2>
    <p v-if="!jobs.length" class="quiet">Every job that has come so far has its day.</p>
    <CarriedJob
      v-for="j in jobs"
      :key="j.job"
      :held="held === j.job"
      :data-in-line="j.number"
      @put="emit('put', j, $event)"
    >
      <span class="row top">
        <VerdictMark :verdict="verdict(j)" :size="15" />
        <router-link :to="`/jobs/${j.job}/plan`" class="mono">{{ j.number }}</router-link>
        <span class="grow" />
        <span class="mono">{{ j.hours }} h</span>
      </span>
      <span class="who">{{ j.customer }}, {{ j.town }}</span>
      <span v-if="j.stops.length" class="why" :title="j.stops.map((r) => r.what).join('\n')">
        {{ j.stops[0].what }}{{ j.stops.length > 1 ? ` and ${j.stops.length - 1} more` : '' }}
      </span>
      <PushButton
        kind="own"
        :aria-pressed="held === j.job"
        :aria-label="`Take up ${j.number}`"
        @click="emit('lift', j)"
      >
        {{ held === j.job ? 'Put back' : 'Take up' }}
      </PushButton>
    </CarriedJob>
  </aside>
</template>

<style scoped>
aside {
  padding: 8px 12px;
}
h2 {
  margin: 4px 0 8px;
}
.job {
  border-top: 1px solid var(--line);
  padding: 7px 0;
  font-size: 12.5px;
  cursor: grab;
}
.top {
  gap: 6px;
  padding-right: 30px; /* the grip */
}
.who,
.why {
  display: block;
}
.why {
  color: var(--slate);
  font-size: 12px;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
button {
  font: inherit;
  font-size: 12px;
  color: var(--copper);
  background: none;
  border: 0;
  padding: 0;
  min-height: 28px;
  cursor: pointer;
}
@media (max-width: 719px) {
  button {
    min-height: 48px;
  }
}
</style>
