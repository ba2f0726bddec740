<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client } from '@/api/client'
import EmptyState from '@/kit/EmptyState.vue'
import PushButton from '@/kit/PushButton.vue'
import TopBar from '@/kit/TopBar.vue'
import { datedText } from '@/kit/dates'

/** Who did what in the firm, newest first. Office and verifiers see it: nobody gives out roles unnoticed. */
const size = 100
const audit = useInfiniteQuery({
  queryKey: ['firm-audit'],
  queryFn: ({ pageParam }) =>
    ask(client.GET('/api/audit', { params: { query: { before: pageParam || undefined, limit: size } } })),
  initialPageParam: 0,
  getNextPageParam: (last) => (last.length < size ? undefined : last.at(-1)!.id),
  staleTime: 0,
})
const people = ref(false)
const lines = computed(() => (audit.data.value?.pages.flat() ?? []).filter((l) => !people.value || !l.job))
</script>

<template>
  <TopBar />
  <main class="page">
    <header class="row">
      <h1>Who did what</h1>
      <span class="grow" />
      <PushButton kind="plain" :aria-pressed="people" data-people @click="people = !people">
        {{ people ? 'Jobs too' : 'People and firm only' }}
      </PushButton>
    </header>
    <EmptyState v-if="audit.isError.value" title="The audit cannot be read" :text="audit.error.value?.message" />
    <table v-else>
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>What</th>
          <th class="about">About</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in lines" :key="l.id" :class="{ refused: l.action.endsWith('refused') }" data-line>
          <td class="mono when">{{ datedText(l.at) }}</td>
          <td>{{ l.who }}</td>
          <td>
            <span v-if="l.action.endsWith('refused')" aria-hidden="true">× </span>{{ l.action }}
            <router-link v-if="l.job" class="quiet" :to="`/jobs/${l.job}`">the job</router-link>
          </td>
          <td class="about quiet">{{ l.detail }}</td>
        </tr>
      </tbody>
    </table>
    <PushButton kind="plain" v-if="audit.hasNextPage.value" @click="audit.fetchNextPage()"> Earlier </PushButton>
  </main>
</template>

<style scoped>
.page {
  max-width: 1080px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.when {
  white-space: nowrap;
}
.about {
  overflow-wrap: anywhere;
}
.refused {
  color: var(--stop);
}
table {
  margin-top: 12px;
}
.btn {
  margin-top: 10px;
}
@media (max-width: 719px) {
  .page {
    padding: 12px;
  }
  thead {
    display: none;
  }
  tr {
    display: grid;
    grid-template-columns: auto 1fr;
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  td {
    border: 0;
    padding: 1px 6px;
  }
  td:nth-child(3),
  td:nth-child(4) {
    grid-column: 1 / -1;
  }
}
</style>
