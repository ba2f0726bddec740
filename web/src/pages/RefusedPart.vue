<script setup lang="ts">
import { ask, client } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'

/** Values of an older program that this one refuses: each is entered anew, then settled. */
const opened = useJob()
const { attempt, wrong } = useAttempt()
const params = { path: { job: opened.id } }
const settle = (field: string) =>
  attempt(async () => opened.accept(await ask(client.POST('/api/jobs/{job}/refused', { params, body: { field } }))))
</script>

<template>
  <section v-if="opened.view.job.refused?.length" class="card refused" aria-labelledby="refused">
    <h2 id="refused">Taken by an older version, refused today</h2>
    <p class="quiet">Enter each value anew where it belongs. What it was stays in the history.</p>
    <ul>
      <li v-for="r in opened.view.job.refused" :key="r.field" class="row">
        <span class="what">
          <b>{{ r.field }}</b> was <span class="mono">{{ r.value }}</span>
          <span class="quiet">{{ r.why }}</span>
        </span>
        <PushButton @click="settle(r.field)">Entered anew, or not needed</PushButton>
      </li>
    </ul>
    <p v-if="wrong" role="alert">{{ wrong }}</p>
  </section>
</template>

<style scoped>
.refused {
  margin-bottom: 18px;
}
.refused ul {
  list-style: none;
  padding: 0;
}
.refused li {
  justify-content: space-between;
  padding: 8px 0;
}
.what {
  min-width: 0;
  overflow-wrap: anywhere;
}
.what .quiet {
  display: block;
}
</style>
