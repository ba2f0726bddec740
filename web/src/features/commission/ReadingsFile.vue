<script setup lang="ts">
import { computed, ref } from 'vue'
import { ask, client, fileBody, type JobView, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import FileButton from '@/kit/FileButton.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import MappingForm from './MappingForm.vue'

/** A file of readings: every line's fate is shown, then all are taken or none. */
const props = defineProps<{ point: string; points: string[] }>()
const opened = useJob()
const open = ref(false)
const text = ref('')
const name = ref('')
const { attempt: attempted, wrong, done, clear } = useAttempt()
const view = ref<Schemas['FileView']>()
const tests = computed(() => opened.view.sequences[props.point]?.tests ?? [])
const marks = { taken: 'sound', there: 'open', refused: 'stop' } as const
const words = { taken: 'taken', there: 'there already', refused: 'refused' } as const
// The names of tests in a file of its own, to be told apart.
const names = computed(() => {
  const rows = text.value.split(/\r?\n/).map((l) => l.split(','))
  const i = rows[0]?.findIndex((h) => h.trim().toLowerCase().startsWith('test')) ?? -1
  return i < 0 ? [] : [...new Set(rows.slice(1).flatMap((r) => (r[i]?.trim() ? [r[i].trim()] : [])))]
})
const params = computed(() => ({ params: { path: { job: opened.id } } }))
const attempt = (what: () => Promise<void>, words?: () => string) =>
  attempted(what, words, `${name.value}: nothing was taken. `)
const look = () =>
  attempt(async () => {
    const body = fileBody(text.value, 'text/csv')
    view.value = await ask(client.POST('/api/jobs/{job}/readings/preview', { ...params.value, ...body }))
  })
async function read(file: File) {
  clear()
  view.value = undefined
  name.value = file.name
  text.value = await file.text()
  open.value = true
  await look()
}
const keep = (m: Schemas['Mapping']) =>
  attempt(async () => {
    await ask(client.POST('/api/mappings', { body: m }))
    await look()
  })
const take = () =>
  attempt(
    async () => {
      const body = fileBody(text.value, 'text/csv')
      opened.accept((await ask(client.POST('/api/jobs/{job}/readings', { ...params.value, ...body }))) as JobView)
      open.value = false
    },
    () => `${view.value!.taken} readings taken from ${name.value}`,
  )
</script>

<template>
  <FileButton accept=".csv,.json,text/csv,application/json" @chosen="read">Read in a file</FileButton>
  <p v-if="done" class="quiet said" role="status">{{ done }}</p>
  <v-dialog v-if="open" v-model="open" max-width="860" aria-label="Readings of a file">
    <section class="card file" data-file>
      <header class="row">
        <h1>{{ name }}</h1>
        <span class="grow" />
        <PushButton kind="plain" @click="open = false">Close</PushButton>
      </header>
      <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
      <MappingForm
        v-if="view?.heading.length"
        :heading="view.heading"
        :points="points"
        :tests="tests"
        :names="names"
        @save="keep"
      />
      <template v-else-if="view">
        <table>
          <thead>
            <tr>
              <th class="right">Line</th>
              <th>Point</th>
              <th>Test</th>
              <th class="right">Reading</th>
              <th>Instrument</th>
              <th>Fate</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in view.lines" :key="l.line" :data-fate="l.fate">
              <td class="mono right">{{ l.line }}</td>
              <td>{{ l.point }}</td>
              <td>{{ tests.find((t) => t.id === l.test)?.title ?? l.test }}</td>
              <td class="mono right">{{ l.value }}</td>
              <td class="mono">{{ l.instrument }}</td>
              <td>
                <span class="fate"><VerdictMark :verdict="marks[l.fate]" :size="14" /> {{ words[l.fate] }}</span>
                <span v-if="l.why" class="why">{{ l.why }}</span>
              </td>
            </tr>
          </tbody>
        </table>
        <p class="row">
          <PushButton kind="main" :disabled="!!view.refused || !view.taken" @click="take">
            Take {{ view.taken }} readings
          </PushButton>
          <span v-if="view.refused" class="quiet">
            {{ view.refused }} refused: nothing is taken until the file has none of them.
          </span>
          <span v-else-if="!view.taken" class="quiet">The log has all of them.</span>
        </p>
      </template>
    </section>
  </v-dialog>
</template>

<style scoped>
.file {
  grid-template-columns: minmax(0, 1fr);
  max-height: 86vh;
  overflow: auto;
  display: grid;
  gap: 12px;
}
.fate {
  display: flex;
  gap: 6px;
  align-items: center;
}
.why {
  display: block;
  color: var(--stop);
  font-size: 12.5px;
}
.error {
  color: var(--stop);
  font-weight: 600;
  white-space: pre-line;
}
@media (max-width: 719px) {
  /* On a phone the fate matters more than where the line says it is from. */
  tr > :nth-child(2),
  tr > :nth-child(5) {
    display: none;
  }
}
.said {
  flex-basis: 100%;
}
</style>
