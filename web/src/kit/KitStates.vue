<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Verdict } from '@/api/client'
import AnswerField from './AnswerField.vue'
import BarField from './BarField.vue'
import CheckField from './CheckField.vue'
import ChoiceField from './ChoiceField.vue'
import DateField from './DateField.vue'
import EmptyState from './EmptyState.vue'
import FieldGroup from './FieldGroup.vue'
import FileButton from './FileButton.vue'
import LimitBar from './LimitBar.vue'
import LineField from './LineField.vue'
import ListField from './ListField.vue'
import NumberField from './NumberField.vue'
import PointTabs from './PointTabs.vue'
import PushButton from './PushButton.vue'
import ReadingField from './ReadingField.vue'
import SaveState from './SaveState.vue'
import TextField from './TextField.vue'
import TimeField from './TimeField.vue'
import VerdictMark from './VerdictMark.vue'
import WordsField from './WordsField.vue'

/** Every part of the kit in every state, in one scheme. */
const props = defineProps<{ scheme: string }>()
const at = (name: string) => `kit.${props.scheme}.${name}`
const verdicts: Verdict[] = ['sound', 'watch', 'stop', 'open']
const devices = ['B', 'C', 'D'].map((v) => ({ value: v, text: `type ${v}` }))
const values = ref({
  text: '12 Ropewalk',
  figure: 32,
  deep: 0.45,
  day: '2026-11-26',
  time: '07:30',
  words: 'The gate is locked.',
})
const choice = ref<string | undefined>('C')
const bar = ref<string | undefined>('B')
const answer = ref<'yes' | 'no' | undefined>('no')
const ticked = ref(true)
const point = ref('A')
const reading = ref('0.31')
const search = ref('')
const word = ref('')
const gauges = computed(() => [
  { verdict: 'sound' as const, gauge: { value: 0.31, high: 0.8 } },
  { verdict: 'watch' as const, gauge: { value: 0.78, high: 0.8 } },
  { verdict: 'stop' as const, gauge: { value: 0.91, high: 0.8 } },
  { verdict: 'sound' as const, gauge: { value: 200, low: 1 } },
  { verdict: 'sound' as const, gauge: { value: 239, low: 216.2, high: 253 } },
])
</script>

<template>
  <section class="states" :aria-label="scheme">
    <h2>{{ scheme }}</h2>
    <h3>Buttons</h3>
    <p class="row">
      <PushButton kind="main">Seal it</PushButton>
      <PushButton>Record</PushButton>
      <PushButton kind="plain">Show</PushButton>
      <PushButton disabled>Not yet</PushButton>
      <PushButton kind="word">as a word</PushButton>
      <FileButton plain accept=".csv">Read in a file</FileButton>
    </p>
    <p class="row">
      <PointTabs v-model="point" :points="['A', 'B', 'C']" :panel="at('panel')" />
      <span :id="at('panel')" role="tabpanel" class="quiet">point {{ point }}</span>
    </p>
    <h3>Verdicts</h3>
    <p class="row">
      <span v-for="v in verdicts" :key="v" class="row"><VerdictMark :verdict="v" :size="22" /> {{ v }}</span>
    </p>
    <p v-for="(g, i) in gauges" :key="i" class="gauge"><LimitBar v-bind="g" /> <VerdictMark :verdict="g.verdict" /></p>
    <p class="heed">A remark: the board is behind the door.</p>
    <p class="heed watch">To weigh: meets, close to the limit.</p>
    <p class="heed stop">Stop: the main switch is not locked.</p>
    <FieldGroup title="Fields">
      <TextField v-model="values.text" :name="at('text')" label="Street and house" hint="as letters find it" />
      <TextField v-model="word" :name="at('bad')" label="Refused" error="a street is missing" />
      <TextField v-model="values.text" :name="at('off')" label="Not to be changed" disabled />
      <TextField v-model="word" :name="at('password')" label="Password" type="password" autocomplete="new-password" />
      <NumberField v-model="values.figure" :name="at('figure')" label="Cutout fuse" unit="A" />
      <NumberField
        v-model="values.deep"
        :name="at('deep')"
        label="Depth"
        unit="mm"
        :scale="0.001"
        hint="kept in metres"
      />
      <DateField v-model="values.day" :name="at('day')" label="Day of the work" />
      <TimeField v-model="values.time" :name="at('time')" label="From" />
      <ChoiceField v-model="choice" :name="at('choice')" label="Breaker" :options="devices" />
      <ChoiceField v-model="choice" :name="at('choice-off')" label="Breaker, as built" :options="devices" disabled />
      <BarField v-model="bar" :name="at('bar')" label="Curve" :options="devices" />
      <AnswerField v-model="answer" :name="at('answer')" label="Is gas bonded?" />
      <template #below>
        <p class="row below">
          <LineField v-model="search" class="line" label="Search" placeholder="A line without a frame" />
          <ListField v-model="choice" :options="devices" empty="every type" label="Type" />
        </p>
        <WordsField v-model="values.words" label="Remarks" />
        <CheckField v-model="ticked">A second person sees every torque</CheckField>
        <CheckField :model-value="false" disabled>Not to be changed</CheckField>
        <p class="row">
          <ReadingField
            v-model="reading"
            :entry="at('reading')"
            :keys="false"
            :changed="false"
            :off="false"
            aria-label="Ze"
          />
          <ReadingField
            v-model="reading"
            :entry="at('typed')"
            :keys="false"
            changed
            :off="false"
            aria-label="Ze, typed"
          />
          Ω
        </p>
      </template>
    </FieldGroup>
    <h3>What became of it</h3>
    <p v-for="s in ['saved', 'saving', 'kept', 'refused'] as const" :key="s" class="row">
      <SaveState :state="s" reason="the server does not answer" />
    </p>
    <EmptyState title="No charging point yet" text="Add one in the survey." />
  </section>
</template>

<style scoped>
.states {
  background: var(--paper);
  color: var(--ink);
  padding: 16px;
  display: grid;
  gap: 8px;
  align-content: start;
}
h2::first-letter {
  text-transform: uppercase;
}
h3 {
  margin: 8px 0 0;
}
.gauge {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 22px;
  gap: 10px;
  align-items: center;
}
.below {
  margin: 12px 0 8px;
}
.line {
  flex: 1 1 160px;
}
</style>
