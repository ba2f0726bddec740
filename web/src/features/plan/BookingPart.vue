<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { ask, client, type JobView, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import ChoiceField from '@/kit/ChoiceField.vue'
import DateField from '@/kit/DateField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { dayText } from '@/kit/dates'
import FirstDayPart from './FirstDayPart.vue'
import ReasonList from './ReasonList.vue'

/** The day of a job: what speaks against it, booking, moving and freeing it. */
const props = defineProps<{ before: () => Promise<void> }>()
const opened = useJob()
const { may } = useMe()
const plan = computed(() => opened.view.job.plan ?? {})
const resources = useQuery({ queryKey: ['resources'], queryFn: () => ask(client.GET('/api/firm/resources')) })
const crews = computed(() => (resources.data.value?.crews ?? []).map((c) => ({ value: c.id, text: c.name })))
const team = ref(plan.value.team)
const day = ref(plan.value.day)
const start = ref(plan.value.start)
const hours = ref(plan.value.hours)
const anyway = ref('')
const { attempt: attempted, told } = useAttempt()
const begun = computed(() => (opened.view.job.log ?? []).some((e) => e.kind === 'step'))
const off = computed(() => opened.view.row.sealed || begun.value || !may('book a day'))
const asked = computed<Schemas['DayAsk']>(() => ({
  team: team.value ?? '',
  day: day.value ?? '',
  start: start.value || undefined,
  hours: hours.value || undefined,
}))
const judged = useQuery({
  queryKey: computed(() => ['day', opened.id, asked.value, opened.view.revisions, opened.view.job.log?.length]),
  queryFn: () => ask(client.POST('/api/jobs/{job}/day', { params: { path: { job: opened.id } }, body: asked.value })),
  enabled: computed(() => !!asked.value.team && !!asked.value.day),
  placeholderData: (old: Schemas['DayAnswer'] | undefined) => old,
})
const answer = computed(() => (asked.value.team && asked.value.day ? judged.data.value : undefined))
const same = computed(
  () =>
    plan.value.day === day.value &&
    plan.value.team === team.value &&
    (!start.value || plan.value.start === start.value) &&
    (!hours.value || plan.value.hours === hours.value),
)
// A booking, one's own or someone else's, shows in the fields.
watch(
  () => [plan.value.day, plan.value.team, plan.value.start, plan.value.hours] as const,
  ([d, t, s, h]) => {
    day.value = d ?? day.value
    team.value = t ?? team.value
    start.value = s ?? start.value
    hours.value = h ?? hours.value
  },
)

const attempt = (what: () => Promise<JobView>, done: string) =>
  attempted(async () => {
    await props.before()
    opened.accept(await what())
    anyway.value = ''
  }, done)
const path = { path: { job: opened.id } }
const book = () =>
  attempt(
    () =>
      ask(
        client.PUT('/api/jobs/{job}/booking', {
          params: path,
          body: { ...asked.value, anyway: anyway.value || undefined },
        }),
      ),
    'Booked; crew and parts are held.',
  )
const free = () =>
  attempt(
    () => ask(client.DELETE('/api/jobs/{job}/booking', { params: path })),
    'Freed: the day, the crew and the parts.',
  )
function take(d: Schemas['DayAsk']) {
  team.value = d.team
  day.value = d.day
  start.value = d.start
  hours.value = d.hours
}
</script>

<template>
  <FieldGroup id="plan.booking" title="Day and crew">
    <template #actions>
      <router-link class="btn plain" :to="`/jobs/${opened.id}/day-sheet`">Day sheet</router-link>
      <PushButton kind="plain" v-if="plan.day && !off" @click="free">Free the day</PushButton>
    </template>
    <ChoiceField v-model="team" name="plan.team" label="Crew" :options="crews" :disabled="off" empty="which crew?" />
    <DateField v-model="day" name="plan.day" label="Day of the work" :disabled="off" />
    <TextField
      v-model="start"
      name="plan.start"
      label="Begins, by the clock of the site"
      type="time"
      :hint="start ? '' : `left out: ${answer?.start ?? 'as early as they can be there'}`"
      :disabled="off"
    />
    <NumberField
      v-model="hours"
      name="plan.hours"
      label="Takes"
      unit="h"
      :hint="answer ? `estimate ${answer.estimate} h` : ''"
      :disabled="off"
    />
    <template #below>
      <p v-if="plan.day" class="booked" data-booked>
        <b>{{ dayText(plan.day) }}, {{ plan.start }}</b> {{ plan.crew?.join(' and ') }}
        <span v-if="plan.override?.by" class="against">
          booked by {{ plan.override.by }} against advice: {{ plan.override.reason }}</span
        >
      </p>
      <p v-if="!crews.length && resources.isSuccess.value" class="quiet">
        No crews yet: enter them under <router-link to="/firm">People and firm</router-link>.
      </p>
      <template v-if="answer">
        <p class="quiet working">
          {{ answer.working }}{{ answer.learnt ? `; learnt from ${answer.learnt} past jobs` : '; usual figures' }}
        </p>
        <p v-if="answer.ok && !same" class="ok">Nothing speaks against this day.</p>
        <ReasonList v-if="answer.reasons.length" :reasons="answer.reasons" />
        <div v-if="!off && !same" class="row act">
          <TextField
            v-if="!answer.ok && answer.byOverride"
            v-model="anyway"
            name="plan.anyway"
            label="Why it is booked all the same; your name and this are printed"
          />
          <PushButton :class="{ main: answer.ok }" :disabled="!answer.byOverride" @click="book">
            {{ plan.day ? 'Move it here' : 'Book this day' }}
          </PushButton>
        </div>
      </template>
      <p v-if="told" class="said" role="status">{{ told }}</p>
      <FirstDayPart v-if="!off" @take="take" />
    </template>
  </FieldGroup>
</template>

<style scoped>
.booked {
  margin-top: 10px;
}
.against {
  color: var(--watch);
}
.working {
  margin-top: 8px;
  font-size: 12.5px;
}
.ok {
  margin-top: 8px;
  color: var(--sound);
  font-weight: 600;
}
.act {
  margin-top: 10px;
  align-items: end;
}
.act > :first-child:not(.btn) {
  flex: 1 1 320px;
}
.said {
  margin-top: 8px;
  font-weight: 600;
}
</style>
