<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { ask, client, fileBody, type Entry, type Schemas } from '@/api/client'
import { useDesk } from '@/composables/useJob'
import { useDevice } from '@/composables/useDevice'
import { useMe } from '@/composables/useMe'
import FileButton from '@/kit/FileButton.vue'
import EmptyState from '@/kit/EmptyState.vue'
import PointTabs from '@/kit/PointTabs.vue'
import ReadingRow from './ReadingRow.vue'
import { momentText } from '@/kit/dates'

const desk = useDesk()
const device = useDevice()
const route = useRoute()
const { may } = useMe()
const points = computed(() => desk.view.job.survey?.places?.map((p) => p.point) ?? [])
const point = ref(String(route.query.point ?? points.value[0] ?? ''))
watch(
  () => route.query.point,
  (p) => p && (point.value = String(p)),
)
const tests = computed(() => desk.view.sequences[point.value]?.tests ?? [])
const off = computed(() => desk.view.row.sealed || !may('write the log'))
const list = ref<HTMLElement>()
const error = ref('')
const said = ref('')

const groups = computed(() => {
  const iso = desk.view.isolation
  const energised = desk.view.job.log?.findLast((e) => e.kind === 'step' && e.subject === 'energise')
  const words: Record<string, string> = {
    dead: iso.proved
      ? `Dead: circuit isolated, proved ${momentText(iso.at!)} by ${iso.by}`
      : 'Dead: before anything is switched on',
    live: energised
      ? `Live: energised ${momentText(energised.at)}, ${energised.value}`
      : 'Live: after everyone has answered',
    charger: 'Charger: simulated vehicle lead',
  }
  return (['dead', 'live', 'charger'] as const)
    .map((g) => ({ id: g, title: words[g], tests: tests.value.filter((t) => t.group === g) }))
    .filter((g) => g.tests.length)
})
const finding = (t: Schemas['Test']) =>
  desk.view.findings.find((f) => f.point === point.value && f.fields?.includes(`commission.${t.id}`))
const readings = (t: Schemas['Test']) =>
  (desk.view.job.log ?? []).filter((e) => e.kind === 'reading' && e.point === point.value && e.subject === t.id)

async function commit(t: Schemas['Test'], value: string, reason: string) {
  const old = readings(t).at(-1)
  await desk.log([
    {
      kind: 'reading',
      subject: t.id,
      point: point.value,
      value,
      unit: t.unit,
      instrument: device.instrument || undefined,
      replaces: old?.id,
      reason: reason || undefined,
    } as Partial<Entry>,
  ])
}
function next(id: string) {
  const fields = [...(list.value?.querySelectorAll<HTMLElement>('[data-entry]') ?? [])]
  fields[fields.findIndex((f) => f.dataset.entry === id) + 1]?.focus()
}
async function readFile(file: File) {
  error.value = said.value = ''
  try {
    const before = desk.view.job.log?.length ?? 0
    const body = fileBody(await file.text(), 'text/csv')
    const view = await ask(client.POST('/api/jobs/{job}/readings', { params: { path: { job: desk.id } }, ...body }))
    desk.accept(view)
    said.value = `${(view.job.log?.length ?? 0) - before} readings taken from ${file.name}`
  } catch (err) {
    error.value = `${file.name}: nothing was taken. ${(err as Error).message}`
  }
}
</script>

<template>
  <header class="row">
    <h1>
      Commission<template v-if="point">, point {{ point }}</template>
    </h1>
    <PointTabs v-model="point" :points="points" />
    <label class="instrument">
      tester <input v-model="device.instrument" class="mono" placeholder="serial or house number" />
    </label>
    <span class="grow" />
    <FileButton v-if="!off" accept=".csv,text/csv" @chosen="readFile">Read in a file</FileButton>
  </header>
  <p v-if="error" class="error" role="alert">{{ error }}</p>
  <p v-if="said" class="quiet" role="status">{{ said }}</p>
  <EmptyState v-if="!tests.length" title="No charging point yet" text="Add one in the survey." />
  <div v-else ref="list" class="tests" data-field="commission">
    <section v-for="g in groups" :key="g.id">
      <h3>{{ g.title }}</h3>
      <ReadingRow
        v-for="t in g.tests"
        :key="point + t.id"
        :test="t"
        :finding="finding(t)"
        :readings="readings(t)"
        :off="off"
        :commit="commit"
        @next="next(t.id)"
      />
    </section>
    <p class="quiet keys"><kbd>Enter</kbd> commits and moves on <kbd>Esc</kbd> puts the old reading back</p>
  </div>
</template>

<style scoped>
h3 {
  font-size: 13px;
  font-weight: 600;
  background: var(--band);
  margin: 12px 0 0;
  padding: 6px 8px;
}
.instrument {
  color: var(--slate);
  font-size: 13px;
}
.instrument input {
  font: inherit;
  font-family: 'Plex Mono', 'Plex Sans', monospace;
  color: var(--ink);
  background: var(--field);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 3px 8px;
  min-height: 30px;
  width: 190px;
}
.error {
  color: var(--stop);
  font-weight: 600;
  margin-top: 8px;
  white-space: pre-line;
}
.keys {
  margin-top: 10px;
}
</style>
