<script setup lang="ts">
import { ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'
import { dayText } from '@/kit/dates'

/** Proposes the first day that meets everything, and names what was passed over on the way. */
const emit = defineEmits<{ take: [day: Schemas['DayAsk']] }>()
const opened = useJob()
const first = ref<Schemas['FirstDay']>()
const { attempt, wrong: error } = useAttempt()
async function look() {
  await attempt(async () => {
    first.value = await ask(client.GET('/api/jobs/{job}/first-day', { params: { path: { job: opened.id } } }))
    if (first.value.found) emit('take', first.value.ask)
  })
}
</script>

<template>
  <div class="first">
    <PushButton kind="plain" @click="look">Find the first day</PushButton>
    <p v-if="error" role="alert">{{ error }}</p>
    <template v-if="first">
      <p v-if="first.found" class="found" data-first>
        First day that nothing speaks against: <b>{{ dayText(first.ask.day) }}, {{ first.ask.start }}</b
        >, {{ first.ask.team }}.
      </p>
      <p v-else data-first>No day up to {{ dayText(first.through) }} meets everything.</p>
      <details v-if="first.passed.length" open>
        <summary>Passed over</summary>
        <table>
          <tbody>
            <tr v-for="p in first.passed.slice(0, 12)" :key="p.reason.what" :data-passed="p.reason.kind">
              <td class="mono day">{{ dayText(p.from) }}{{ p.to === p.from ? '' : ` to ${dayText(p.to)}` }}</td>
              <td>{{ p.reason.what }}</td>
              <td class="quiet">{{ p.teams.join(', ') }}, {{ p.days }} {{ p.days === 1 ? 'day' : 'days' }}</td>
            </tr>
          </tbody>
        </table>
      </details>
    </template>
  </div>
</template>

<style scoped>
.first {
  margin-top: 12px;
}
.found {
  margin: 8px 0;
}
.day {
  white-space: nowrap;
}
details {
  font-size: 13px;
  margin-top: 6px;
}
[data-first] {
  margin-top: 8px;
}
</style>
