<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import BarField from '@/kit/BarField.vue'
import DateField from '@/kit/DateField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { dayText } from '@/kit/dates'
import { stateWords } from './usePapers'

/** What comes after the work: by when, what happens when it is late, and on a sealed job what became of it. */
const props = defineProps<{ coming: Schemas['Coming'][]; today: string }>()
const opened = useJob()
const { may } = useMe()
type Event = Schemas['MoveInputBody']['event']
const events: { value: Event; text: string }[] = [
  { value: 'sent', text: 'sent' },
  { value: 'acknowledged', text: 'acknowledged' },
  { value: 'answered', text: 'answered, passed' },
  { value: 'sent-back', text: 'sent back' },
  { value: 'not-needed', text: 'not needed' },
]
const paper = ref('') // that something is noted about
const event = ref<Event>()
const day = ref<string>()
const words = ref('')
const wordsFor = computed(() =>
  event.value === 'sent-back' || event.value === 'not-needed' ? 'Why' : 'Reference, if it has one',
)
const { attempt, clear, fields, elsewhere, busy } = useAttempt()
watch(event, clear)
function begin(id: string) {
  paper.value = id
  event.value = undefined
  day.value = props.today
  words.value = ''
}
async function note() {
  const params = { path: { job: opened.id, paper: paper.value } }
  const body = { event: event.value!, day: day.value!, words: words.value || undefined }
  const move = async () =>
    opened.accept(await ask(client.POST('/api/jobs/{job}/papers/{paper}/after', { params, body })))
  if (await attempt(move)) paper.value = ''
}
const late = (c: Schemas['Coming']) => !!c.by && c.by < props.today
</script>

<template>
  <FieldGroup v-if="coming.length" title="Still to come after the work" data-to-come>
    <template #below>
      <ul class="coming">
        <li v-for="c in coming" :key="c.paper" :data-coming="c.paper">
          <p class="row">
            <b>{{ c.title }}</b>
            <span class="quiet">{{ stateWords[c.state] }}{{ c.who ? `, ${c.who}` : '' }}</span>
            <span class="grow" />
            <span v-if="c.by" class="by" :class="{ late: late(c) }">
              {{ late(c) ? '× late, was due' : 'by' }} {{ dayText(c.by) }}
            </span>
          </p>
          <p v-if="c.says" class="quiet">{{ c.says }}; late: {{ c.late }}</p>
          <PushButton
            v-if="opened.view.row.sealed && may('save the clearances') && paper !== c.paper"
            kind="plain"
            :data-note="c.paper"
            @click="begin(c.paper)"
          >
            What became of it
          </PushButton>
          <form v-if="paper === c.paper" class="noted" @submit.prevent="note">
            <BarField v-model="event" :name="`after.${c.paper}.event`" label="It was" :options="events" wide />
            <DateField v-model="day" :name="`after.${c.paper}.day`" label="on" :error="fields.day" />
            <TextField v-model="words" :name="`after.${c.paper}.words`" :label="wordsFor" :error="fields.words" />
            <p v-if="elsewhere" class="error" role="alert">{{ elsewhere }}</p>
            <p class="row wide">
              <PushButton type="submit" :disabled="busy || !event || !day">Note it beside the record</PushButton>
              <PushButton kind="plain" @click="paper = ''">Leave it</PushButton>
            </p>
          </form>
        </li>
      </ul>
      <p class="quiet">
        {{
          opened.view.row.sealed
            ? 'The sealed issue stays as it is: each of these is an entry of its own beside it.'
            : 'Sealing does not wait for these. They stay open on the sealed job, and on the list of what is due.'
        }}
      </p>
    </template>
  </FieldGroup>
</template>

<style scoped>
.coming {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li > .btn {
  margin-top: 8px;
}
li {
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.by {
  font-weight: 600;
}
.late {
  color: var(--stop);
  font-weight: 600;
}
</style>
