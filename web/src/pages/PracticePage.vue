<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useBooks } from '@/composables/useBooks'
import PushButton from '@/kit/PushButton.vue'
import TopBar from '@/kit/TopBar.vue'
import PracticeRun from './PracticeRun.vue'

/** Cases to learn fault finding on, the run of the one that is open, and what people reached. */
const queries = useQueryClient()
const books = useBooks()
const list = useQuery({ queryKey: ['practice'], queryFn: () => ask(client.GET('/api/practice')) })
const run = ref<Schemas['RunView']>()
const { attempt, wrong: error } = useAttempt()
const countries = computed(() =>
  (books.data.value ?? [])
    .filter((b, i, all) => all.findIndex((o) => o.practice.id === b.practice.id) === i)
    .map((b) => ({ title: b.country, cases: list.data.value?.cases.filter((c) => c.country === b.practice.id) ?? [] })),
)
async function begin(id: string) {
  await attempt(async () => {
    run.value = await ask(client.POST('/api/practice/cases/{case}', { params: { path: { case: id } } }))
  })
}
function close() {
  run.value = undefined
  queries.invalidateQueries({ queryKey: ['practice'] })
}
</script>

<template>
  <TopBar />
  <main class="practice">
    <PracticeRun v-if="run" v-model="run" @close="close" @again="begin(run.case.id)" />
    <template v-else>
      <header class="row">
        <h1>Practice</h1>
        <span class="quiet">made-up circuits with a hidden fault; nothing here is a real installation</span>
      </header>
      <p v-if="error" class="error" role="alert">{{ error }}</p>
      <section v-for="s in countries" :key="s.title" class="card group">
        <h2>{{ s.title }}</h2>
        <div class="cases">
          <PushButton kind="own" v-for="c in s.cases" :key="c.id" class="case" :data-case="c.id" @click="begin(c.id)">
            <b>{{ c.title }}</b>
            <span>{{ c.story }}</span>
            <span class="mono best">{{
              list.data.value?.best[c.id] === undefined ? 'not tried' : `best ${list.data.value.best[c.id]} of 100`
            }}</span>
          </PushButton>
        </div>
      </section>
      <section v-if="list.data.value?.results.length" class="card group">
        <h2>Results</h2>
        <table>
          <thead>
            <tr>
              <th>Name</th>
              <th class="right">Cases</th>
              <th class="right">Mean of the best</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in list.data.value.results" :key="r.name" :data-result="r.name">
              <td>{{ r.name }}</td>
              <td class="mono right">{{ r.cases }} of {{ list.data.value.cases.length }}</td>
              <td class="mono right">{{ r.mean }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </template>
  </main>
</template>

<style scoped>
.practice {
  max-width: 1080px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.group {
  margin-top: 12px;
}
h2 {
  margin: 0 0 8px;
}
.cases {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 10px;
}
.case {
  font: inherit;
  text-align: left;
  color: var(--ink);
  background: var(--field);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 9px 12px;
  display: flex;
  flex-direction: column;
  gap: 3px;
  cursor: pointer;
}
.case span {
  font-size: 13px;
  color: var(--ink2);
}
.case .best {
  margin-top: auto;
  font-size: 12px;
  color: var(--slate);
}
@media (max-width: 719px) {
  .practice {
    padding: 12px;
  }
}
</style>
