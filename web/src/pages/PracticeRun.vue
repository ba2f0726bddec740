<script setup lang="ts">
import { computed, ref } from 'vue'
import { ask, client, type Schemas, type Verdict } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import ChoiceField from '@/kit/ChoiceField.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'

/** The run of a practice case: tests in any order, then the fault and its remedy by name, then the reasoning. */
const run = defineModel<Schemas['RunView']>({ required: true })
const emit = defineEmits<{ close: []; again: [] }>()
const fault = ref<string>()
const remedy = ref<string>()
const { attempt: attempted, wrong, busy } = useAttempt()
const groups = computed(() =>
  [
    { id: 'dead', title: 'Dead' },
    { id: 'origin', title: 'At the origin: main off' },
    { id: 'live', title: 'Live: the circuit is switched on for these' },
    { id: 'charger', title: 'Charger, live' },
  ].map((g) => ({ ...g, tests: run.value.tests.filter((t) => t.group === g.id) })),
)
const title = (id: string) => run.value.tests.find((t) => t.id === id)?.title ?? id
const count = (id: string) => run.value.taken.filter((r) => r.test === id).length
const faults = computed(() => run.value.faults.map((f) => ({ value: f.id, text: f.title })))
/** Sorted by their words, so that their order gives nothing away. */
const remedies = computed(() =>
  run.value.faults.map((f) => ({ value: f.id, text: f.remedy })).sort((a, b) => a.text.localeCompare(b.text)),
)
const parts = computed(() => {
  const r = run.value.result
  return r
    ? [
        { title: 'Safety order', got: r.safety, of: 40 },
        { title: 'Tests that told something', got: r.economy, of: 20 },
        { title: 'Fault and remedy', got: r.diagnosis, of: 40 },
      ]
    : []
})
const attempt = (what: () => Promise<Schemas['RunView']>) => attempted(async () => (run.value = await what()))
const measure = (test: string) =>
  attempt(() =>
    ask(client.POST('/api/practice/runs/{run}/tests/{test}', { params: { path: { run: run.value.run, test } } })),
  )
const answer = async () => {
  await attempt(() =>
    ask(
      client.POST('/api/practice/runs/{run}/answer', {
        params: { path: { run: run.value.run } },
        body: { fault: fault.value ?? '', remedy: remedy.value ?? '' },
      }),
    ),
  )
  window.scrollTo(0, 0) // the marks stand on top
}
</script>

<template>
  <header class="row">
    <h1>{{ run.case.title }}</h1>
    <span class="grow" />
    <PushButton kind="plain" @click="emit('close')">All cases</PushButton>
  </header>
  <p class="story">{{ run.case.story }}</p>
  <p class="quiet">{{ run.circuit.join(', ') }}</p>
  <section v-if="run.result" class="card group" data-marks>
    <h2 class="total">{{ run.result.total }} of 100: {{ run.result.truth.toLowerCase() }}</h2>
    <div v-for="p in parts" :key="p.title" class="mark">
      <span>{{ p.title }}</span>
      <span class="bar" aria-hidden="true"><i :style="{ width: `${(100 * p.got) / p.of}%` }" /></span>
      <span class="mono">{{ p.got }} of {{ p.of }}</span>
    </div>
    <ol>
      <li v-for="w in run.result.why" :key="w">{{ w }}</li>
    </ol>
    <PushButton @click="emit('again')">Begin it again</PushButton>
  </section>
  <div class="columns">
    <section class="card group">
      <template v-for="g in groups" :key="g.id">
        <h2 class="minor">{{ g.title }}</h2>
        <PushButton
          kind="own"
          v-for="t in g.tests"
          :key="t.id"
          class="test"
          :disabled="busy || !!run.result"
          :data-measure="t.id"
          @click="measure(t.id)"
        >
          <span>{{ t.title }}</span>
          <span class="quiet">{{ count(t.id) ? `read ${count(t.id)} ×` : t.hint }}</span>
        </PushButton>
      </template>
    </section>
    <section class="card group">
      <h2 class="minor">Readings, in the order taken</h2>
      <p v-if="!run.taken.length" class="quiet">None yet. Any order is allowed; not every order is wise.</p>
      <div v-for="(r, i) in run.taken" :key="i" class="reading" :data-taken="r.test">
        <VerdictMark v-if="r.verdict" :verdict="r.verdict as Verdict" :size="16" />
        <span v-else />
        <span>{{ title(r.test) }}</span>
        <span class="mono value">{{ r.value }} {{ r.unit }}</span>
        <span v-if="r.working" class="quiet working">{{ r.working }}</span>
      </div>
      <template v-if="!run.result">
        <h2 class="minor">What is it?</h2>
        <ChoiceField v-model="fault" name="practice.fault" label="Fault" :options="faults" empty="choose" />
        <ChoiceField v-model="remedy" name="practice.remedy" label="Remedy" :options="remedies" empty="choose" />
        <PushButton kind="main" class="say" :disabled="busy || !fault || !remedy" @click="answer">Answer</PushButton>
      </template>
      <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
    </section>
  </div>
</template>

<style scoped>
.story {
  margin-top: 4px;
  font-size: 15px;
}
.group {
  margin-top: 12px;
}
.total {
  font-size: 16px;
  margin: 0 0 8px;
}
h2:first-child {
  margin-top: 0;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  gap: 14px;
  align-items: start;
}
.test {
  font: inherit;
  width: 100%;
  min-height: var(--tap);
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  text-align: left;
  color: var(--ink);
  background: var(--field);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 4px 10px;
  margin-bottom: 5px;
  cursor: pointer;
}
.test .quiet {
  font-size: 12px;
  text-align: right;
}
.reading {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto;
  gap: 2px 8px;
  align-items: center;
  border-bottom: 1px solid var(--line);
  padding: 5px 0;
}
.working {
  grid-column: 2 / -1;
  font-size: 12.5px;
}
.say {
  margin-top: 10px;
}
.mark {
  display: grid;
  grid-template-columns: 200px minmax(80px, 240px) 80px;
  gap: 10px;
  align-items: center;
}
.bar {
  height: 9px;
  border: 1px solid var(--slate);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--slate);
}
@media (max-width: 719px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
  .mark {
    grid-template-columns: minmax(0, 1fr) 80px 70px;
  }
}
</style>
