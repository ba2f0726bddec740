<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ask, client, type Schemas, type Verdict } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { datedText } from '@/kit/dates'
import NewKeyPart from './NewKeyPart.vue'

/** Whether all logs, records and files are as they were written, and the keys of the firm. */
const queries = useQueryClient()
const health = useQuery({ queryKey: ['doctor'], queryFn: () => ask(client.GET('/api/doctor')) })
const { attempt, wrong, busy } = useAttempt()
const look = () => attempt(async () => queries.setQueryData(['doctor'], await ask(client.POST('/api/doctor'))))
const replicaMark = (r: Schemas['Replica']): Verdict => (r.failing ? 'stop' : r.behind < 1 ? 'sound' : 'watch')
</script>

<template>
  <FieldGroup title="Are logs and records as they were written?">
    <template #actions>
      <PushButton kind="plain" :disabled="busy" data-look @click="look">
        {{ busy ? 'looking…' : 'Look now' }}
      </PushButton>
    </template>
    <template v-if="health.data.value" #below>
      <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
      <p v-if="!health.data.value.looked" class="quiet">Nobody has looked since the program began.</p>
      <p v-else-if="!health.data.value.faults.length" class="said" data-sound>
        <VerdictMark verdict="sound" />
        <span
          >{{ health.data.value.jobs }} jobs looked at {{ datedText(health.data.value.at!) }}: each entry, record and
          file is as it was written.</span
        >
      </p>
      <template v-else>
        <p class="said">
          <VerdictMark verdict="stop" />
          <span
            ><b>{{ health.data.value.faults.length }} not as written</b>, seen {{ datedText(health.data.value.at!) }}.
            Keep the data folder as it is, and compare it with a copy.</span
          >
        </p>
        <ul>
          <li v-for="f in health.data.value.faults" :key="f.what">
            <router-link v-if="f.job && f.number" :to="`/jobs/${f.job}`" class="mono">{{ f.number }}</router-link>
            {{ f.what }}
          </li>
        </ul>
      </template>
      <template v-if="health.data.value.replica">
        <h3>The replica</h3>
        <p class="said" data-replica>
          <VerdictMark :verdict="replicaMark(health.data.value.replica)" />
          <span v-if="health.data.value.replica.failing">
            <b>Behind by {{ Math.round(health.data.value.replica.behind) }} s</b>:
            {{ health.data.value.replica.problem || 'its place does not answer' }}. What is written now is on this
            machine alone.
          </span>
          <span v-else-if="health.data.value.replica.behind < 1">It has all that was written.</span>
          <span v-else>
            The last {{ Math.round(health.data.value.replica.behind) }} s are on their way<template
              v-if="health.data.value.replica.waiting"
              >, with {{ health.data.value.replica.waiting }} pictures and files</template
            >.
          </span>
        </p>
      </template>
      <h3>Keys that records are sealed with</h3>
      <p v-for="k in health.data.value.keys" :key="k.fingerprint">
        <span class="mono">{{ k.fingerprint }}</span>
        <span class="quiet"> since {{ datedText(k.since) }}, {{ k.by }}: {{ k.why }}</span>
      </p>
      <p v-if="!health.data.value.keys.length" class="quiet">None yet: it is made with the firm’s name.</p>
      <NewKeyPart v-else :proposed="health.data.value.proposed" />
    </template>
  </FieldGroup>
</template>

<style scoped>
h3 {
  font-size: 13.5px;
  color: var(--ink);
  margin: 12px 0 4px;
}
.said {
  display: flex;
  gap: 8px;
  align-items: center;
}
p,
ul {
  margin: 8px 0;
}
</style>
