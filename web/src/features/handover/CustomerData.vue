<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask, client } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'

/** What the office does with a customer's data: save them, take them out on request, delete a job that was made to try. */
const opened = useJob()
const router = useRouter()
const queries = useQueryClient()
const reason = ref('')
const { attempt, fields: errors, elsewhere: wrong, done: said } = useAttempt()
const empty = computed(() => !opened.view.job.log?.length && !opened.view.records.length)
const path = { params: { path: { job: opened.id } } }
const erase = () =>
  attempt(async () => {
    opened.accept(await ask(client.POST('/api/jobs/{job}/personal/erase', { ...path, body: { reason: reason.value } })))
  }, 'Taken out. Sealed records keep what they say.')
const remove = () =>
  attempt(async () => {
    await ask(client.DELETE('/api/jobs/{job}', path))
    queries.invalidateQueries({ queryKey: ['jobs'] })
    router.replace('/jobs')
  })
</script>

<template>
  <details class="card customer" data-customer>
    <summary>The customer’s data</summary>
    <p v-if="said" class="said" role="status">{{ said }}</p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <p class="row">
      <a class="btn plain" :href="`api/jobs/${opened.id}/personal`" download>Save all that is held, as ZIP</a>
      <PushButton kind="plain" v-if="empty" data-delete @click="remove">Delete this job</PushButton>
    </p>
    <form @submit.prevent="erase">
      <p class="quiet">
        On request: name, address, telephone, mail, notes, pictures and files are taken out of this job, lists, search
        and calendars. Sealed records stay as they are. It cannot be undone.
      </p>
      <TextField v-model="reason" name="reason" label="Who asked, and when" :error="errors.reason" />
      <PushButton type="submit">Take the customer’s data out</PushButton>
    </form>
  </details>
</template>

<style scoped>
.customer {
  margin-top: 12px;
}
summary {
  cursor: pointer;
  font-weight: 600;
  min-height: 28px;
}
.said,
.wrong {
  font-weight: 600;
  margin: 8px 0;
}
.wrong {
  color: var(--stop);
}
form {
  display: grid;
  gap: 8px;
  margin-top: 10px;
  justify-items: start;
  max-width: 560px;
}
</style>
