<script setup lang="ts">
import { ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import PushButton from '@/kit/PushButton.vue'
import { weekdayText as weekday } from '@/kit/dates'

/** Proposes days for every job that wants one, and books the proposal when it is taken. */
const props = defineProps<{ view: Schemas['Days'] }>()
const emit = defineEmits<{ booked: [] }>()
const open = ref(false)
const plan = ref<Schemas['WeekPlan']>()
const { attempt, wrong, busy } = useAttempt()
const results = ref<Record<string, string>>({})
const crew = (id: string) => props.view.crews.find((c) => c.id === id)?.name ?? id

function propose() {
  open.value = true
  results.value = {}
  plan.value = undefined
  const day = new Date(props.view.today + 'T00:00:00Z')
  day.setUTCDate(day.getUTCDate() + 1) // the vans of today have left
  const body = { jobs: props.view.waiting.map((j) => j.job), from: day.toISOString().slice(0, 10), count: 15 }
  return attempt(async () => (plan.value = await ask(client.POST('/api/days/proposal', { body }))))
}
/** Books one after the other; what one comes to does not stop the next. */
const take = () => attempt(takeEach)
async function takeEach() {
  for (const p of plan.value?.placed ?? []) {
    const body = { team: p.team, day: p.day, start: p.start, hours: p.hours }
    const book = ask(client.PUT('/api/jobs/{job}/booking', { params: { path: { job: p.job } }, body }))
    results.value[p.job] = await book.then(
      () => 'booked',
      (e: Error) => e.message,
    )
  }
  emit('booked')
}
</script>

<template>
  <PushButton kind="main" :disabled="!view.waiting.length" @click="propose">Propose days</PushButton>
  <v-dialog v-if="open" v-model="open" max-width="820" aria-label="Proposed days">
    <div class="card sheet" data-week>
      <header class="row">
        <h1>Proposed days</h1>
        <span class="grow" />
        <PushButton kind="plain" @click="open = false">Close</PushButton>
      </header>
      <p v-if="busy && !plan" class="quiet" role="status">Weighing jobs, crews and days…</p>
      <p v-if="wrong" role="alert">{{ wrong }}</p>
      <template v-if="plan">
        <table>
          <thead>
            <tr>
              <th>Day</th>
              <th>Crew</th>
              <th>Job</th>
              <th>Begins</th>
              <th class="right">Takes</th>
              <th />
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in plan.placed" :key="p.job" :data-placed="p.number">
              <td>{{ weekday(p.day) }}</td>
              <td>{{ crew(p.team) }}</td>
              <td>
                <span class="mono">{{ p.number }}</span> {{ p.town }}
              </td>
              <td class="mono">{{ p.start }}</td>
              <td class="mono right">{{ p.hours }} h</td>
              <td>{{ results[p.job] }}</td>
            </tr>
          </tbody>
        </table>
        <template v-if="plan.left.length">
          <h2 class="minor">Without a day</h2>
          <table>
            <tbody>
              <tr v-for="l in plan.left" :key="l.job" :data-left="l.number">
                <td class="mono">{{ l.number }}</td>
                <td>{{ l.why }}</td>
              </tr>
            </tbody>
          </table>
        </template>
        <p class="quiet foot">
          Cost {{ plan.cost.toFixed(1) }}: a day later is 1, an hour on the road ½, a job without a day 100. One job
          after the other would cost {{ plan.greedy.toFixed(1) }}; no plan costs less than {{ plan.bound.toFixed(1) }}.
        </p>
        <div class="row foot">
          <PushButton kind="main" :disabled="busy || !plan.placed.length" @click="take">
            Book these {{ plan.placed.length }}
          </PushButton>
        </div>
      </template>
    </div>
  </v-dialog>
</template>

<style scoped>
.sheet {
  max-height: 84vh;
  overflow: auto;
}
.foot {
  margin-top: 12px;
}
</style>
