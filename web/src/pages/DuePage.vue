<script setup lang="ts">
import { base } from '@/base'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import EmptyState from '@/kit/EmptyState.vue'
import ListField from '@/kit/ListField.vue'
import PushButton from '@/kit/PushButton.vue'
import TopBar from '@/kit/TopBar.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { dayText } from '@/kit/dates'

/** What is late or due about papers, over all jobs, and the addresses of the calendars. */
const { may } = useMe()
const queries = useQueryClient()
const days = ref(7)
const ahead = [
  { value: 7, text: 'this week' },
  { value: 31, text: 'within a month' },
  { value: 183, text: 'within half a year' },
]
const { attempt, told } = useAttempt()
const due = useQuery({
  queryKey: computed(() => ['due', days.value]),
  queryFn: () => ask(client.GET('/api/papers/due', { params: { query: { days: days.value } } })),
})
const feeds = useQuery({ queryKey: ['feeds'], queryFn: () => ask(client.GET('/api/feeds')) })
const resources = useQuery({ queryKey: ['resources'], queryFn: () => ask(client.GET('/api/firm/resources')) })
const groups = computed(() => {
  const all = due.data.value ?? []
  return [
    { title: 'Late', list: all.filter((d) => d.late), verdict: 'stop' as const },
    {
      title: days.value === 7 ? 'This week' : `Within ${days.value} days`,
      list: all.filter((d) => !d.late),
      verdict: 'open' as const,
    },
  ].filter((g) => g.list.length)
})
const renew = async () => queries.setQueryData(['feeds'], await ask(client.POST('/api/feeds')))
const address = (name: string) => `${location.origin}${base}${feeds.data.value?.path}${name}.ics`
function fetchAnswers() {
  let answered = 0
  const fetchThem = async () => {
    ;({ answered } = await ask(client.POST('/api/papers/answers')))
    await queries.invalidateQueries()
  }
  return attempt(fetchThem, () =>
    answered ? `${answered} answered; see the jobs.` : 'Nothing is waiting for an answer.',
  )
}
</script>

<template>
  <TopBar />
  <main class="due">
    <header class="row">
      <h1>Papers due</h1>
      <ListField v-model="days" :options="ahead" label="How far ahead" />
      <span class="grow" />
      <PushButton kind="plain" v-if="may('save the clearances')" @click="fetchAnswers"> Fetch answers </PushButton>
    </header>
    <p v-if="told" class="said" role="status">{{ told }}</p>
    <EmptyState v-if="due.isError.value" title="What is due cannot be read" :text="due.error.value?.message" />
    <EmptyState v-else-if="due.data.value && !groups.length" title="Nothing is late or due" />
    <section v-for="g in groups" :key="g.title" class="card group">
      <h2>{{ g.title }}</h2>
      <table>
        <tbody>
          <tr v-for="d in g.list" :key="d.job + d.paper + d.what" :data-due="d.number">
            <td class="mark"><VerdictMark :verdict="g.verdict" :size="16" /></td>
            <td class="mono day">{{ dayText(d.day) }}</td>
            <td class="number">
              <router-link :to="`/jobs/${d.job}/clearances?field=clearances.papers`" class="mono">{{
                d.number
              }}</router-link>
              <span class="quiet"> {{ d.customer }}</span>
            </td>
            <td>{{ d.title }}</td>
            <td>{{ d.what }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section v-if="feeds.data.value" class="card group">
      <h2>Calendars</h2>
      <p class="quiet">
        Your own addresses for a calendar program. Whoever has one can read it, until you take it back or your account
        is closed.
      </p>
      <p v-if="may('view every job')" class="mono feed">{{ address('deadlines') }}</p>
      <p v-for="c in resources.data.value?.crews ?? []" :key="c.id" class="mono feed">{{ address(`crew-${c.id}`) }}</p>
      <PushButton kind="plain" data-renew @click="renew">Take these back, for new ones</PushButton>
    </section>
  </main>
</template>

<style scoped>
.due {
  max-width: 1080px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.group {
  margin-top: 12px;
}
h2 {
  margin: 0 0 6px;
}
.mark {
  width: 22px;
}
.day {
  width: 110px;
  white-space: nowrap;
}
.number {
  width: 220px;
}
.number .quiet {
  margin-left: 8px;
}
.feed {
  font-size: 12.5px;
  overflow-wrap: anywhere;
  margin-top: 4px;
}
[data-renew] {
  margin-top: 10px;
}
.said {
  margin-top: 8px;
  font-weight: 600;
}
@media (max-width: 719px) {
  .due {
    padding: 12px;
  }
  tr {
    display: grid;
    grid-template-columns: 26px 1fr;
    border-bottom: 1px solid var(--line);
    padding: 6px 0;
  }
  td {
    border: 0;
    padding: 2px 4px;
    width: auto;
    grid-column: 2;
  }
  .mark {
    grid-column: 1;
  }
  .day {
    grid-row: 1;
  }
}
</style>
