<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Entry, Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import BarField from '@/kit/BarField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import DateField from '@/kit/DateField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { dayText, momentText } from '@/kit/dates'
import TakeBack from '../TakeBack.vue'

/** What an inspector of the authority wants put right, thing by thing, and by whom and when it was. */
const props = defineProps<{ papers: Schemas['Paper'][]; today: string }>()
const opened = useJob()
const { may } = useMe()
const off = computed(() => opened.view.row.sealed || !may('write the log'))
const practice = computed(() => opened.view.book.practice)
const inspections = computed(() =>
  props.papers
    .filter(
      (p) =>
        p.needed === 'yes' &&
        practice.value.inspectors.some((v) => v.paper === p.id && !(v.unless && v.unless === p.before)),
    )
    .map((p) => ({ value: p.id, text: p.title ?? p.id })),
)
const things = computed(() => [
  ...practice.value.inspections
    .filter((i) => i.answers.some((a) => a.value === 'as-it-should-be'))
    .map((i) => ({ value: i.id, text: `${i.part}: ${i.title}` })),
  { value: 'other', text: 'Something else' },
])
const lines = computed(() =>
  opened.standing
    .filter((e) => e.kind === 'correction')
    .map((asked) => ({
      asked,
      paper: props.papers.find((p) => p.id === asked.subject)?.title ?? asked.subject,
      thing: asked.value === 'other' ? '' : (things.value.find((t) => t.value === asked.value)?.text ?? ''),
      done: opened.standing.find((e) => e.kind === 'put-right' && e.subject === asked.id),
    })),
)
const open = ref(false)
const paper = ref<string>()
const day = ref<string>()
const thing = ref<string>()
const words = ref('')
const asking = useAttempt()
function begin() {
  open.value = true
  day.value = props.today
  thing.value = undefined
  words.value = ''
  if (!inspections.value.some((i) => i.value === paper.value)) paper.value = inspections.value[0]?.value
}
async function note() {
  const entry: Partial<Entry> = {
    kind: 'correction',
    subject: paper.value,
    value: thing.value,
    day: day.value,
    reason: words.value.trim(),
  }
  if (await asking.attempt(() => opened.log([entry]))) begin() // an inspector seldom names one thing alone
}

/** The correction that is being put right. */
const mends = ref('')
const what = ref('')
const mending = useAttempt()
function mend(id: string) {
  mends.value = id
  what.value = ''
}
async function mended() {
  const entry: Partial<Entry> = { kind: 'put-right', subject: mends.value, reason: what.value.trim() }
  if (await mending.attempt(() => opened.log([entry]))) mends.value = ''
}
</script>

<template>
  <FieldGroup v-if="inspections.length || lines.length" title="Asked by inspectors" data-corrections>
    <template #actions>
      <span class="quiet">{{
        lines.length ? `${lines.filter((l) => !l.done).length} to be put right` : 'nothing'
      }}</span>
    </template>
    <template #below>
      <ul v-if="lines.length">
        <li v-for="l in lines" :key="l.asked.id" :data-correction="l.asked.id">
          <VerdictMark :verdict="l.done ? 'sound' : 'stop'" />
          <div>
            <b>{{ l.asked.reason }}</b>
            <p class="quiet">
              {{ l.paper }}, {{ dayText(l.asked.day!) }}{{ l.thing ? ` · ${l.thing}` : '' }} · noted by {{ l.asked.by }}
            </p>
            <p v-if="l.done">Put right: {{ l.done.reason }}, {{ l.done.by }}, {{ momentText(l.done.at) }}</p>
            <form v-if="mends === l.asked.id" class="row mends" @submit.prevent="mended">
              <LineField v-model="what" label="What was done" placeholder="what was done, in words" data-mended />
              <PushButton type="submit" :disabled="what.trim().length < 10 || mending.busy.value">Keep</PushButton>
              <PushButton kind="plain" @click="mends = ''">Leave it</PushButton>
              <p v-if="mending.wrong.value" class="error" role="alert">{{ mending.wrong.value }}</p>
            </form>
            <div v-else-if="!off" class="row">
              <PushButton v-if="!l.done" kind="plain" data-mend @click="mend(l.asked.id)">Put right</PushButton>
              <TakeBack :entry="l.done ?? l.asked" :off="off" />
            </div>
          </div>
        </li>
      </ul>
      <PushButton v-if="!open && !off && inspections.length" kind="plain" data-ask-correction @click="begin">
        The inspector wants something put right
      </PushButton>
      <form v-else-if="open && !off" class="noted" @submit.prevent="note">
        <BarField
          v-if="inspections.length > 1"
          v-model="paper"
          name="correction.paper"
          label="At the"
          :options="inspections"
          wide
        />
        <DateField v-model="day" name="correction.day" label="Inspector was there on" />
        <ChoiceField v-model="thing" name="correction.thing" label="It is about" :options="things" empty="choose" />
        <TextField v-model="words" name="correction.words" label="To be put right, in the inspector’s words" wide />
        <p v-if="asking.wrong.value" class="error" role="alert">{{ asking.wrong.value }}</p>
        <p class="row wide">
          <PushButton
            type="submit"
            :disabled="asking.busy.value || !paper || !day || !thing || words.trim().length < 10"
          >
            Note it
          </PushButton>
          <PushButton kind="plain" @click="open = false">That is all</PushButton>
        </p>
      </form>
      <p class="quiet how">
        An inspection with something open is not passed. What it is about is looked at again when it was put right; then
        the day on which the inspection passed goes onto its paper. Work inside the board waits until dead is proved
        anew.
      </p>
    </template>
  </FieldGroup>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr);
  gap: 10px;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.how,
li .row {
  margin-top: 8px;
}
.mends .v-input {
  flex: 1 1 240px;
}
</style>
