<script setup lang="ts">
import { useQueries, useQuery } from '@tanstack/vue-query'
import { useNow } from '@vueuse/core'
import { computed } from 'vue'
import { ask, client } from '@/api/client'
import EmptyState from '@/kit/EmptyState.vue'
import TopBar from '@/kit/TopBar.vue'
import { localDay, weekdayText } from '@/kit/dates'
import MyJob from './MyJob.vue'

/** A crew's first page: the jobs of today in order, each with its next step one press away, then what is left from before, then the days after. */
const mine = useQuery({ queryKey: ['mine'], queryFn: () => ask(client.GET('/api/mine')) })
const views = useQueries({
  queries: computed(() =>
    (mine.data.value ?? []).map((j) => ({
      queryKey: ['job', j.id],
      queryFn: () => ask(client.GET('/api/jobs/{job}', { params: { path: { job: j.id } } })),
    })),
  ),
})
const clock = useNow({ interval: 60_000 }) // a page may stay open over night
const today = computed(() => localDay(clock.value))
const when = (p?: { day?: string; start?: string }) => `${p?.day || '9'} ${p?.start ?? ''}`
/** All of them are there, or cannot be had: a job that came later would push the next step away from under a finger. */
const come = computed(() => !!mine.data.value && views.value.every((v) => v.data || v.fetchStatus !== 'fetching'))
const jobs = computed(() =>
  (come.value ? views.value : [])
    .flatMap((v) => (v.data ? [v.data] : []))
    .sort((a, b) => when(a.job.plan).localeCompare(when(b.job.plan))),
)
const now = computed(() => jobs.value.filter((j) => j.job.plan?.day === today.value))
const later = computed(() => jobs.value.filter((j) => (j.job.plan?.day ?? '') > today.value))
const before = computed(() => jobs.value.filter((j) => !j.job.plan?.day || j.job.plan.day < today.value))
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>My day</h1>
    <p class="quiet">{{ weekdayText(today) }}</p>
    <EmptyState v-if="mine.isError.value" title="Your jobs cannot be read" :text="mine.error.value?.message" />
    <section aria-label="Today">
      <MyJob v-for="j in now" :key="j.row.id" :view="j" today />
      <p v-if="come && !now.length" class="none">Nothing is booked for you today.</p>
    </section>
    <section v-if="before.length" aria-labelledby="before">
      <h2 id="before">Begun before, or without a day</h2>
      <MyJob v-for="j in before" :key="j.row.id" :view="j" />
    </section>
    <section v-if="later.length" aria-labelledby="later">
      <h2 id="later">The days after</h2>
      <MyJob v-for="j in later" :key="j.row.id" :view="j" />
    </section>
  </main>
</template>

<style scoped>
.page {
  max-width: 760px;
  margin: 0 auto;
  padding: 14px 14px 60px;
}
h1,
p {
  margin: 0;
}
.none {
  margin-top: 14px;
}
h2 {
  margin: 20px 0 0;
}
</style>
