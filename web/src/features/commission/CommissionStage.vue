<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Entry, Finding, Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useAwake } from '@/composables/useAwake'
import { useJob } from '@/composables/useJob'
import { useDevice } from '@/composables/useDevice'
import { useGradually } from '@/composables/useGradually'
import { useMe } from '@/composables/useMe'
import EmptyState from '@/kit/EmptyState.vue'
import KeyPad from '@/kit/KeyPad.vue'
import LaterPart from '@/kit/LaterPart.vue'
import LineField from '@/kit/LineField.vue'
import PointTabs from '@/kit/PointTabs.vue'
import PushButton from '@/kit/PushButton.vue'
import ChargerBench from './ChargerBench.vue'
import InspectionPart from './InspectionPart.vue'
import ReadingRow from './ReadingRow.vue'
import ReadingsFile from './ReadingsFile.vue'
import TesterStream from './TesterStream.vue'
import { dayText, momentText } from '@/kit/dates'

const opened = useJob()
useAwake()
const device = useDevice()
const route = useRoute()
const { may, me } = useMe()
const points = computed(() => opened.view.job.survey?.places?.map((p) => p.point) ?? [])
const point = ref(String(route.query.point ?? points.value[0] ?? ''))
watch(
  () => route.query.point,
  (p) => p && (point.value = String(p)),
)
const tests = computed(() => opened.view.sequences[point.value]?.tests ?? [])
const off = computed(() => opened.view.row.sealed || !may('write the log'))
const list = ref<HTMLElement>()
const { attempt, wrong: error } = useAttempt()
const more = ref(false) // show good practice too
const until = computed(() => opened.view.policy.instruments?.[device.instrument.trim().toLowerCase()])
const late = computed(() => !!until.value && until.value < new Date().toISOString().slice(0, 10))
const optional = computed(() => tests.value.filter((t) => t.optional).length)
const derived = (t: Schemas['Test']) => opened.view.sequences[point.value]?.derived.find((d) => d.test === t.id)
const finding = (t: Schemas['Test']) =>
  opened.view.findings.find((f) => f.point === point.value && f.fields?.includes(`commission.${t.id}`))
const readings = (t: Schemas['Test']) =>
  opened.standing.filter((e) => e.kind === 'reading' && e.point === point.value && e.subject === t.id)

interface Line {
  test: Schemas['Test']
  readings: Entry[]
  finding?: Finding
  derived?: Schemas['Derivation']
  unsent: boolean
}
const same = <T,>(a: T[] | undefined, b: T[]) => a?.length === b.length && b.every((v, i) => v === a[i])
// What each line shows. What has not changed stays the same object: its line is not drawn again.
const lines = computed<Line[]>((before) =>
  tests.value
    .map((test) => {
      const now = readings(test)
      const was = before?.find((l) => l.test.id === test.id)?.readings
      const unsent = opened.kept.includes(now.at(-1)?.id ?? '')
      return { test, readings: same(was, now) ? was! : now, finding: finding(test), derived: derived(test), unsent }
    })
    .filter((l) => !l.test.optional || more.value || l.readings.length),
)
const drawn = useGradually(lines, 3)
const groups = computed(() => {
  const iso = opened.view.isolation
  const energised = opened.standing.findLast((e) => e.kind === 'step' && e.subject === 'energise')
  const words: Record<string, string> = {
    dead: iso.proved
      ? `Dead: circuit isolated, proved ${momentText(iso.at!)} by ${iso.by}`
      : 'Dead: before anything is switched on',
    origin: 'At the origin: main off and locked, the supply side stays live',
    live: energised
      ? `Live: energised ${momentText(energised.at)}, ${energised.value}`
      : 'Live: after everyone has answered',
    charger: 'Charger: simulated vehicle lead',
  }
  return (['dead', 'origin', 'live', 'charger'] as const)
    .map((g) => ({
      id: g,
      title: words[g],
      lines: drawn.value.filter((l) => l.test.group === g),
    }))
    .filter((g) => g.lines.length)
})

async function commit(t: Schemas['Test'], value: string, reason: string, calculated = false) {
  device.notePast(t.unit ?? '', value)
  const old = readings(t).at(-1)
  await opened.log([
    {
      kind: 'reading',
      subject: t.id,
      point: point.value,
      value,
      unit: t.unit,
      instrument: calculated ? 'calculated' : device.instrument || undefined,
      replaces: old?.id,
      reason: reason || undefined,
    } as Partial<Entry>,
  ])
}
/** Readings of a stand-in. */
async function take(entries: Partial<Entry>[]) {
  await attempt(async () => {
    await opened.log(
      entries.map((e) => ({ ...e, replaces: readings({ id: e.subject! } as Schemas['Test']).at(-1)?.id })),
    )
  })
}
function next(id: string) {
  const fields = [...(list.value?.querySelectorAll<HTMLElement>('[data-entry]') ?? [])]
  const to = fields[fields.findIndex((f) => f.dataset.entry === id) + 1]
  const field = to?.querySelector('button') ?? to // a bar of its choice, or the field itself
  field?.focus()
}
</script>

<template>
  <header class="row">
    <h1>
      Commission<template v-if="point">, point {{ point }}</template>
    </h1>
    <PointTabs v-model="point" :points="points" panel="point-tests" />
    <label class="instrument">
      tester <LineField v-model="device.instrument" mono placeholder="its serial number" />
      <span v-if="until" :class="{ late }"
        >{{ late ? '× calibration ended' : 'in calibration until' }} {{ dayText(until!) }}</span
      >
    </label>
    <span class="grow" />
    <PushButton kind="plain" v-if="optional" :aria-pressed="more" data-more @click="more = !more">
      {{ more ? 'Only what is asked for' : `Not asked for, ${optional} more` }}
    </PushButton>
    <ReadingsFile v-if="!off" :point="point" :points="points" />
  </header>
  <EmptyState v-if="!tests.length" title="No charging point yet" text="Add one in the survey." />
  <div
    v-else
    id="point-tests"
    ref="list"
    class="tests"
    :role="points.length > 1 ? 'tabpanel' : undefined"
    data-field="commission"
  >
    <section v-for="g in groups" :key="g.id">
      <h2 class="banded">{{ g.title }}</h2>
      <ReadingRow
        v-for="l in g.lines"
        :key="point + l.test.id"
        v-bind="l"
        :point="point"
        :off="off"
        :commit="commit"
        @next="next(l.test.id)"
      />
    </section>
    <LaterPart>
      <KeyPad />
      <TesterStream v-if="!off && me?.standIns" :key="'t' + point" :point="point" :tests="tests" @take="take" />
      <p v-if="error" class="error" role="alert">{{ error }}</p>
      <ChargerBench
        v-if="me?.standIns && !['removal', 'outlet', 'sub-main'].includes(opened.view.kinds[point]!)"
        :key="point"
        :point="point"
        :off="off"
        @take="take"
      />
      <InspectionPart v-if="opened.view.findings.some((f) => f.rule === 'inspected')" :off="off" />
    </LaterPart>
    <p class="quiet keys"><kbd>Enter</kbd> commits and moves on <kbd>Esc</kbd> puts the old reading back</p>
  </div>
</template>

<style scoped>
.instrument {
  color: var(--slate);
  font-size: 13px;
}
.instrument .v-input {
  display: inline-block;
  width: 190px;
}
.error {
  color: var(--stop);
  font-weight: 600;
  margin-top: 8px;
}
.late {
  color: var(--stop);
  font-weight: 600;
}
/* What is not on the screen is not laid out. */
.tests > * {
  content-visibility: auto;
  contain-intrinsic-size: auto 300px;
}
@media (max-width: 719px) {
  .tests:focus-within {
    padding-bottom: 340px;
  }
}
.keys {
  margin-top: 10px;
}
</style>
