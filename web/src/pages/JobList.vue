<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ask, client, fileBody, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useBooks } from '@/composables/useBooks'
import { growing, useGradually } from '@/composables/useGradually'
import { useKeys } from '@/composables/useKeys'
import { useMe } from '@/composables/useMe'
import FileButton from '@/kit/FileButton.vue'
import EmptyState from '@/kit/EmptyState.vue'
import LineField from '@/kit/LineField.vue'
import ListField from '@/kit/ListField.vue'
import PushButton from '@/kit/PushButton.vue'
import TopBar from '@/kit/TopBar.vue'
import { stages, stageTitle } from '@/router'
import JobListRow from './JobListRow.vue'

type Stage = Schemas['Summary']['stage']
const router = useRouter()
const { may } = useMe()
const search = ref('')
const stage = ref<Stage>()
const inWay = ref<'stop' | 'open' | 'nothing'>()
const ways = [
  { value: 'stop', text: 'something stops' },
  { value: 'open', text: 'only open points' },
  { value: 'nothing', text: 'nothing in the way' },
] as const
const pages = ref<string[]>([]) // where each page after the first begins
const size = 50
const box = useTemplateRef('box')
const settled = refDebounced(search, 180)
watch([settled, stage, inWay], () => (pages.value = []))

const query = useQuery({
  queryKey: computed(() => ['jobs', settled.value, stage.value, inWay.value, pages.value.at(-1)]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs', {
        params: {
          query: {
            search: settled.value || undefined,
            stage: stage.value,
            inWay: inWay.value,
            limit: size,
            after: pages.value.at(-1),
          },
        },
      }),
    ),
  placeholderData: keepPreviousData,
})
const jobs = computed(() => query.data.value?.jobs ?? [])
const drawn = useGradually(jobs, 6)
const total = computed(() => query.data.value?.total ?? 0)
const next = computed(() => query.data.value?.next)
const first = computed(() => pages.value.length * size + 1)
const last = computed(() => first.value + jobs.value.length - 1)
/** How many there are, as far as they were counted. */
const count = computed(() => (query.data.value?.more ? `more than ${last.value}` : `${total.value}`))
const filtered = computed(() => !!(settled.value || stage.value || inWay.value))
const books = useBooks()
const short = (id: string) => books.data.value?.find((b) => b.id === id)?.short ?? id
const { attempt, wrong } = useAttempt()

function importFile(file: File) {
  const take = async () => {
    const body = fileBody(await file.text(), 'application/octet-stream')
    const view = await ask(client.POST('/api/jobs/import', body))
    router.push(`/jobs/${view.row.id}`)
  }
  return attempt(take, '', `${file.name}: `)
}

useKeys({ '/': () => box.value?.focus() })
</script>

<template>
  <TopBar />
  <main class="list">
    <header class="row head">
      <h1>Jobs</h1>
      <span class="grow" />
      <template v-if="may('create jobs')">
        <FileButton plain accept=".json,application/json" @chosen="importFile">Read in a job file</FileButton>
        <router-link class="btn main" to="/jobs/new">New job</router-link>
      </template>
    </header>
    <p v-if="wrong" class="refused" role="alert">{{ wrong }}</p>
    <div class="row filters">
      <LineField
        ref="box"
        v-model="search"
        class="search"
        type="search"
        placeholder="Number, customer, street or town"
        label="Search jobs"
      />
      <ListField
        v-model="stage"
        :options="stages.map((s) => ({ value: s, text: stageTitle(s) }))"
        empty="every stage"
        label="Stage"
      />
      <ListField v-model="inWay" :options="ways" empty="whatever stands in the way" label="What stands in the way" />
      <span class="quiet">{{ count }} {{ total === 1 ? 'job' : 'jobs' }}, next date first</span>
    </div>
    <div v-if="query.isPending.value" class="card" aria-busy="true">
      <div v-for="i in 6" :key="i" class="ghost" />
    </div>
    <EmptyState v-else-if="query.isError.value" title="The jobs cannot be read" :text="query.error.value?.message">
      <PushButton @click="query.refetch()">Try again</PushButton>
    </EmptyState>
    <EmptyState v-else-if="!jobs.length && filtered" title="No job matches" text="Take a word or a filter away." />
    <EmptyState v-else-if="!jobs.length" title="No jobs yet" text="A job starts with an address and a rulebook.">
      <router-link v-if="may('create jobs')" class="btn main" to="/jobs/new">New job</router-link>
    </EmptyState>
    <table v-else>
      <thead>
        <tr>
          <th>Job</th>
          <th>Where</th>
          <th class="wide">Rulebook</th>
          <th>Stage</th>
          <th>In the way</th>
          <th>Next date</th>
        </tr>
      </thead>
      <tbody>
        <JobListRow v-for="j in drawn" :key="j.id" :job="j" :book="short(j.rulebook)" />
      </tbody>
    </table>
    <nav v-if="next || pages.length" v-show="!growing" class="row pager">
      <PushButton kind="plain" :disabled="!pages.length" @click="pages.pop()">Earlier</PushButton>
      <span class="quiet">{{ first }} to {{ last }} of {{ count }}</span>
      <PushButton kind="plain" :disabled="!next" @click="pages.push(next!)">Later</PushButton>
    </nav>
  </main>
</template>

<style scoped>
.list {
  max-width: 1180px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.filters {
  margin: 14px 0 10px;
}
.filters .quiet {
  line-height: 20px;
}
.search {
  flex: 1 1 260px;
}
.ghost {
  height: 22px;
  margin: 12px 0;
  border-radius: 3px;
  background: var(--band);
}
.refused {
  color: var(--stop);
  font-weight: 600;
  margin-top: 8px;
}
.pager {
  margin-top: 14px;
}
@media (max-width: 719px) {
  .list {
    padding: 12px;
  }
  /* The same places whatever the words measure: nothing moves when the typeface comes. */
  .filters {
    display: grid;
    grid-template-columns: 1fr 1fr;
  }
  .filters .search,
  .filters .quiet {
    grid-column: 1 / -1;
  }
  .filters > * {
    min-width: 0;
  }
  .wide,
  thead {
    display: none;
  }
}
</style>
