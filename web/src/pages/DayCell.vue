<script setup lang="ts">
import type { Schemas } from '@/api/client'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import CarriedJob from './CarriedJob.vue'

/** One crew's day: its jobs in order, what is missing for each, and a place to put a job down. */
defineProps<{
  jobs: Schemas['OnDay'][]
  label: string
  off: boolean
  past: boolean
  held?: string
  target: boolean
}>()
const emit = defineEmits<{
  lift: [job: Schemas['OnDay']]
  free: [job: string]
  dropHere: []
  put: [job: Schemas['OnDay'], cell: string]
}>()
const lacking = (j: Schemas['OnDay']) => j.reasons.filter((r) => r.verdict !== 'note')
const verdict = (j: Schemas['OnDay']) =>
  j.begun ? 'sound' : j.reasons.some((r) => r.verdict === 'never') ? 'stop' : lacking(j).length ? 'watch' : 'sound'
</script>

<template>
  <td class="cell" :class="{ off, past }">
    <span class="day">{{ label }}</span>
    <CarriedJob
      v-for="j in jobs"
      :key="j.job"
      :class="verdict(j)"
      :held="held === j.job"
      :fixed="j.begun"
      :data-on-day="j.number"
      @put="emit('put', j, $event)"
    >
      <span class="row top">
        <VerdictMark :verdict="verdict(j)" :size="15" />
        <router-link :to="`/jobs/${j.job}/plan`" class="mono">{{ j.number }}</router-link>
      </span>
      <span class="mono time">{{ j.start }}–{{ j.end }}</span>
      <span class="town">{{ j.town }}, {{ j.way }} min on the road</span>
      <span v-if="j.begun" class="quiet">begun</span>
      <span
        v-else-if="lacking(j).length"
        class="why"
        :title="
          lacking(j)
            .map((r) => r.what)
            .join('\n')
        "
      >
        {{ lacking(j)[0].what }}{{ lacking(j).length > 1 ? ` and ${lacking(j).length - 1} more` : '' }}
      </span>
      <span v-if="!j.begun" class="row acts">
        <PushButton kind="own" :aria-pressed="held === j.job" :aria-label="`Move ${j.number}`" @click="emit('lift', j)">
          {{ held === j.job ? 'Put back' : 'Move' }}
        </PushButton>
        <PushButton kind="own" :aria-label="`Free ${j.number}`" @click="emit('free', j.job)">Free</PushButton>
      </span>
    </CarriedJob>
    <PushButton
      kind="own"
      v-if="target && !past"
      class="land"
      :aria-label="`Put it on ${label}`"
      @click="emit('dropHere')"
    >
      Put it here
    </PushButton>
    <span v-if="off" class="quiet">day off</span>
  </td>
</template>

<style scoped>
.cell {
  vertical-align: top;
  padding: 5px;
  border-left: 1px solid var(--line);
  height: 118px;
}
.cell.off,
.cell.past {
  background: var(--band);
}
.cell.over {
  outline: 2px solid var(--copper);
  outline-offset: -2px;
}
.day {
  display: none;
}
.job {
  border: 1px solid var(--line);
  border-left: 4px solid var(--sound);
  border-radius: 3px;
  padding: 5px 7px;
  background: var(--card);
  margin-bottom: 5px;
  font-size: 12.5px;
  cursor: grab;
}
.job.watch {
  border-left-color: var(--watch-mark);
}
.job.stop {
  border-left-color: var(--stop);
}
.top {
  gap: 5px;
  flex-wrap: nowrap;
}
.time,
.town,
.why {
  display: block;
}
.town,
.why {
  font-size: 12px;
  color: var(--slate);
}
.why {
  color: var(--ink2);
  display: -webkit-box;
  -webkit-line-clamp: 3;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
.acts {
  gap: 12px;
  margin-top: 3px;
}
.acts button {
  font: inherit;
  font-size: 12px;
  min-height: 26px;
  color: var(--copper);
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
}
.land {
  font: inherit;
  font-size: 12.5px;
  width: 100%;
  min-height: 34px;
  color: var(--copper);
  background: none;
  border: 1px dashed var(--copper);
  border-radius: 3px;
  cursor: pointer;
}
@media (max-width: 719px) {
  .cell {
    display: block;
    height: auto;
    border-left: 0;
  }
  .day {
    display: block;
    font-size: 12px;
    color: var(--slate);
    margin-bottom: 3px;
  }
  .acts button {
    min-height: 48px;
    padding: 0 14px 0 0;
  }
}
</style>
