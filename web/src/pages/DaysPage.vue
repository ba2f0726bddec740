<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useKeys } from '@/composables/useKeys'
import { useMe } from '@/composables/useMe'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'
import TopBar from '@/kit/TopBar.vue'
import EmptyState from '@/kit/EmptyState.vue'
import { weekdayText as weekday } from '@/kit/dates'
import DayCell from './DayCell.vue'
import InLineList from './InLineList.vue'
import WeekPlanPart from './WeekPlanPart.vue'

/** Crews by days. A job is taken up with the mouse or Enter and put down on a day of a crew. */
const { may } = useMe()
const queries = useQueryClient()
const from = ref('')
const count = 5
const query = useQuery({
  queryKey: computed(() => ['days', from.value]),
  queryFn: () => ask(client.GET('/api/days', { params: { query: { from: from.value || undefined, count } } })),
  placeholderData: (old: Schemas['Days'] | undefined) => old,
})
const view = computed(() => query.data.value)
const held = ref<{ job: string; number: string; hours?: number; anyway?: string }>()
const said = ref('')
const booking = useAttempt()
const freeing = useAttempt()
const wanted = ref<{ team: string; day: string }>() // where a job was put down last
const refused = computed(() => {
  const e = booking.error.value
  return e && wanted.value ? { ...wanted.value, message: e.message, byOverride: e.status === 409 } : undefined
})
const at = (team: string, day: string) => view.value?.jobs.filter((j) => j.team === team && j.day === day) ?? []

function shift(n: number) {
  const d = new Date((from.value || view.value?.today || '') + 'T00:00:00Z')
  d.setUTCDate(d.getUTCDate() + n * 7)
  from.value = d.toISOString().slice(0, 10)
}
function lift(j: { job: string; number: string; hours?: number }) {
  booking.clear()
  held.value = held.value?.job === j.job ? undefined : { job: j.job, number: j.number, hours: j.hours }
  said.value = held.value ? `${j.number} is taken up: choose a crew and a day, Escape puts it back.` : ''
}
async function drop(team: string, day: string, start?: string) {
  if (!held.value || !may('book a day')) return
  const h = held.value
  said.value = ''
  freeing.clear()
  wanted.value = { team, day }
  const body = { team, day, start, anyway: h.anyway || undefined }
  const book = () => ask(client.PUT('/api/jobs/{job}/booking', { params: { path: { job: h.job } }, body }))
  if (await booking.attempt(book)) {
    said.value = `${h.number} is booked: ${weekday(day)}.`
    held.value = undefined
  }
  await queries.invalidateQueries({ queryKey: ['days'] })
}
/** A job was carried to a cell: a crew and a day. */
function put(j: { job: string; number: string; hours?: number }, cell: string) {
  const [team, day] = cell.split(' ')
  held.value = { job: j.job, number: j.number, hours: j.hours }
  void drop(team, day)
}
async function free(job: string) {
  said.value = ''
  const rid = () => ask(client.DELETE('/api/jobs/{job}/booking', { params: { path: { job } } }))
  if (await freeing.attempt(rid)) held.value = undefined
  await queries.invalidateQueries({ queryKey: ['days'] })
}
useKeys({ escape: () => ((held.value = undefined), booking.clear(), (said.value = '')) })
</script>

<template>
  <TopBar />
  <main class="days">
    <header class="row">
      <h1>Days</h1>
      <PushButton kind="plain" @click="shift(-1)">Earlier</PushButton>
      <PushButton kind="plain" @click="from = ''">This week</PushButton>
      <PushButton kind="plain" @click="shift(1)">Later</PushButton>
      <span class="grow" />
      <WeekPlanPart
        v-if="view && may('book a day')"
        :view="view"
        @booked="queries.invalidateQueries({ queryKey: ['days'] })"
      />
    </header>
    <p v-if="said || freeing.wrong.value" class="said" role="status">{{ said || freeing.wrong.value }}</p>
    <div v-if="refused" class="card refused" role="alert" data-refused>
      <b>{{ held?.number }} on {{ weekday(refused.day) }}</b> {{ refused.message }}
      <div v-if="held && refused.byOverride" class="row">
        <label class="grow">
          <span class="unseen">Why it is booked all the same</span>
          <LineField
            v-model="held.anyway"
            placeholder="Why it is booked all the same; your name and this are printed"
          />
        </label>
        <PushButton @click="drop(refused.team, refused.day)">Book all the same</PushButton>
      </div>
    </div>
    <EmptyState v-if="query.isError.value" title="The days cannot be read" :text="query.error.value?.message" />
    <EmptyState
      v-else-if="view && !view.crews.length"
      title="No crews yet"
      text="Enter crews, vans and instruments under People and firm."
    />
    <div v-else-if="view" class="columns">
      <table class="board">
        <thead>
          <tr>
            <th>Crew</th>
            <th v-for="d in view.days" :key="d" :class="{ today: d === view.today }">{{ weekday(d) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in view.crews" :key="c.id">
            <th class="crew">
              {{ c.name }}<span>{{ c.people.join(', ') }}</span>
              <span>{{ c.base }}</span>
            </th>
            <DayCell
              v-for="d in view.days"
              :key="d"
              :jobs="at(c.id, d)"
              :label="`${c.name}, ${weekday(d)}`"
              :off="c.off?.includes(d) ?? false"
              :past="d < (view.todays[c.id] ?? view.today)"
              :held="held?.job"
              :target="!!held && may('book a day')"
              :data-cell="`${c.id} ${d}`"
              @lift="lift"
              @free="free"
              @drop-here="drop(c.id, d)"
              @put="put"
            />
          </tr>
        </tbody>
      </table>
      <InLineList :jobs="view.waiting" :held="held?.job" @lift="lift" @put="put" />
    </div>
  </main>
</template>

<style scoped>
.days {
  max-width: 1360px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 268px;
  gap: 16px;
  margin-top: 12px;
  align-items: start;
}
.board {
  table-layout: fixed;
  background: var(--card);
  border: 1px solid var(--line);
}
.board th:first-child {
  width: 112px;
}
.today {
  color: var(--copper);
  border-bottom-color: var(--copper);
}
.crew {
  vertical-align: top;
  font-size: 13.5px;
  color: var(--ink);
  border-right: 1px solid var(--line);
}
.crew span {
  display: block;
  font-weight: 400;
  font-size: 12px;
  color: var(--slate);
  text-decoration: none;
}
.said {
  margin-top: 8px;
  font-weight: 600;
}
.refused {
  margin-top: 10px;
  border-color: var(--stop);
}
.refused .row {
  margin-top: 8px;
}
.refused .v-input {
  width: 100%;
  box-sizing: border-box;
}
@media (max-width: 1023px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 719px) {
  .days {
    padding: 12px;
  }
  .board,
  .board tbody,
  .board tr {
    display: block;
  }
  .board thead {
    display: none;
  }
  .crew {
    display: block;
    width: auto !important;
    border-right: 0;
    background: var(--band);
  }
}
</style>
