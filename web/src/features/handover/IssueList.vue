<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { dayText, momentText } from '@/kit/dates'

/** The sealed issues with their papers, and the way to an amendment. */
const props = defineProps<{ issues: Schemas['Issue'][]; job: string; sealed: boolean }>()
const emit = defineEmits<{ amend: [string]; withdraw: [issue: number, reason: string] }>()
const { may } = useMe()
const opened = useJob()
const withdrawn = (i: Schemas['Issue']) =>
  opened.standing.find((e) => e.kind === 'withdrawal' && !e.imported && e.subject === String(i.issue))
const why = ref('')
const asking = ref(false)
const given = useQuery({
  queryKey: computed(() => ['recipients', opened.id, opened.view.job.log?.length]),
  queryFn: () => ask(client.GET('/api/jobs/{job}/recipients', { params: { path: { job: opened.id } } })),
  enabled: computed(() => asking.value || props.issues.some(withdrawn)),
})
const reason = ref('')
/** The issue that replaces one, if it was amended. */
const next = (i: Schemas['Issue']) => props.issues.find((o) => o.issue === i.issue + 1)
const papersOf = (i: Schemas['Issue']) =>
  i.certified ? [{ kind: 'certificate', title: 'Certificate, PDF' }, ...papers] : papers
const papers = [
  { kind: 'inspection', title: 'Inspection record, PDF' },
  { kind: 'handover', title: 'Handover pack, PDF' },
  { kind: 'record', title: 'Record, JSON' },
]
</script>

<template>
  <FieldGroup v-for="i in issues" :key="i.issue" :title="`Issue ${i.issue}`">
    <template #below>
      <p class="row">
        <VerdictMark :verdict="withdrawn(i) ? 'stop' : next(i) ? 'watch' : 'sound'" /> sealed
        {{ momentText(i.sealedAt) }} by {{ i.sealedBy }}, code
        <span class="mono">{{ i.code }}</span>
        <span v-if="i.replaces" class="quiet">replaces {{ i.replaces }}</span>
        <b v-if="withdrawn(i)" class="withdrawn" data-withdrawn
          >withdrawn by {{ withdrawn(i)!.by }}, {{ momentText(withdrawn(i)!.at) }}: {{ withdrawn(i)!.reason }}</b
        >
        <b v-if="next(i)" data-replaced>replaced by issue {{ next(i)!.issue }}, code {{ next(i)!.code }}</b>
      </p>
      <p class="row links">
        <a
          v-for="p in papersOf(i)"
          :key="p.kind"
          class="btn"
          :href="`api/jobs/${job}/records/${i.issue}/${p.kind}`"
          :data-paper="p.kind"
          download
          >{{ p.title }}</a
        >
        <router-link class="btn plain" to="/verify">Check a file</router-link>
        <router-link
          v-if="sealed && i === issues[0] && may('create jobs')"
          class="btn plain"
          :to="`/jobs/new?from=${job}`"
          data-next
        >
          Next job here
        </router-link>
      </p>
    </template>
  </FieldGroup>
  <slot />
  <section v-if="given.data.value?.length && (asking || issues.some(withdrawn))" class="card given" data-given>
    <b>Who was given papers of this job, and is told</b>
    <p class="quiet">A mail that could not be sent stands in the audit, to be told by hand.</p>
    <ul>
      <li v-for="g in given.data.value" :key="g.what + g.who + g.day">
        {{ g.who }}: {{ g.what }}, {{ dayText(g.day) }}
        <span class="quiet">{{ g.address ? `by mail to ${g.address}` : 'by hand' }}</span>
      </li>
    </ul>
  </section>
  <form v-if="sealed && may('seal a record')" class="card amend" @submit.prevent="emit('amend', reason)">
    <label>
      A sealed record cannot be edited. An amendment becomes a new issue that names this one. Why is it needed?
      <LineField v-model="reason" />
    </label>
    <PushButton kind="plain" type="submit" :disabled="reason.trim().length < 10">Open an amendment</PushButton>
  </form>
  <form
    v-if="sealed && may('seal a record') && issues[0] && !withdrawn(issues[0])"
    class="card amend"
    @submit.prevent="emit('withdraw', issues[0].issue, why)"
  >
    <label>
      A record that is wrong is withdrawn: it stays to be read, a check of the file says so, and who was given it is
      told. Why?
      <LineField v-model="why" data-why-withdrawn @focusin="asking = true" />
    </label>
    <PushButton kind="plain" type="submit" data-withdraw :disabled="why.trim().length < 10">
      Withdraw issue {{ issues[0].issue }}
    </PushButton>
  </form>
</template>

<style scoped>
.given {
  margin-top: 12px;
}
.withdrawn {
  color: var(--stop);
}
.links {
  margin-top: 10px;
}
.amend {
  margin-top: 12px;
  display: grid;
  gap: 10px;
  justify-items: start;
}
label {
  display: grid;
  gap: 6px;
  width: 100%;
}
</style>
