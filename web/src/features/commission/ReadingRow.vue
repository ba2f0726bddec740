<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { Entry, Finding, Schemas, Verdict } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import LimitBar from '@/kit/LimitBar.vue'
import { pad } from '@/kit/pad'
import LineField from '@/kit/LineField.vue'
import PressBars from '@/kit/PressBars.vue'
import PushButton from '@/kit/PushButton.vue'
import ReadingField from '@/kit/ReadingField.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import RefusedEntry from '../RefusedEntry.vue'
import TakeBack from '../TakeBack.vue'
import { cameText, momentText } from '@/kit/dates'

/** One test: what it is held against, the reading, its bar and verdict. A failed reading stays, struck through. */
const props = defineProps<{
  test: Schemas['Test']
  point: string
  finding?: Finding
  readings: Entry[]
  off: boolean
  derived?: Schemas['Derivation']
  unsent: boolean
  commit: (t: Schemas['Test'], value: string, reason: string, calculated?: boolean) => Promise<void>
}>()
const emit = defineEmits<{ next: [] }>()
const latest = computed(() => props.readings.at(-1))
const old = computed(() => props.readings.slice(0, -1))
const value = ref(latest.value?.value ?? '')
const reason = ref('')
const { attempt, wrong, busy, clear } = useAttempt()
const row = useTemplateRef('row')
// What somebody is typing stays, whatever comes from the server meanwhile.
watch(latest, (e, before) => {
  if (value.value.trim() === (before?.value ?? '')) value.value = e?.value ?? ''
})
const changed = computed(() => value.value.trim() !== (latest.value?.value ?? ''))
const verdict = computed<Verdict>(() => (latest.value ? (props.finding?.verdict ?? 'open') : 'open'))
const against = computed(() => props.finding?.limit ?? '')

async function enter(calculated = false) {
  if (busy.value) return // one gesture, one reading: leaving the field after Enter is the same one
  const v = value.value.trim()
  clear()
  if (v && changed.value) {
    if (!(await attempt(() => props.commit(props.test, v, reason.value, calculated)))) return
    reason.value = ''
  }
  emit('next')
}
function choose(v: string) {
  value.value = v
  void enter()
}
/** Leaving the row commits; going to its cause and remedy does not. */
function leave(e: FocusEvent) {
  const to = e.relatedTarget as HTMLElement | null
  if (to?.closest('[data-test]') === row.value) return
  if (changed.value && value.value.trim()) void enter()
}
/** The value that follows from other readings, with its working. */
function calculate() {
  value.value = props.derived!.value
  reason.value = props.derived!.working
  void enter(true)
}
function back() {
  value.value = latest.value?.value ?? ''
  clear()
}
</script>

<template>
  <div ref="row" class="test" :data-test="test.id" :data-field="`commission.${test.id}`">
    <component :is="test.choice ? 'span' : 'label'" :for="test.choice ? undefined : `test-${test.id}`" class="what">
      {{ test.title }}
      <span v-if="test.hint" class="hint">{{ test.hint }}</span>
    </component>
    <span class="against quiet">{{ against }}</span>
    <span class="entry" :class="{ chosen: test.choice }">
      <PressBars
        v-if="test.choice"
        :id="`test-${test.id}`"
        class="choice"
        :data-entry="test.id"
        :label="test.title"
        :options="test.choice.map((c) => ({ value: c, text: c }))"
        :chosen="value"
        :disabled="off || busy"
        @press="choose"
      />
      <template v-else>
        <ReadingField
          :id="`test-${test.id}`"
          v-model="value"
          :entry="test.id"
          :unit="test.unit"
          :words="test.words"
          :keys="pad"
          :changed="changed"
          :off="off || busy"
          @keydown.enter.prevent="enter()"
          @keydown.esc="back"
          @blur="leave"
        />
        <span class="unit">{{ test.unit }}</span>
      </template>
    </span>
    <span v-if="!test.choice" class="bar"><LimitBar :gauge="finding?.bar" :verdict="verdict" /></span>
    <VerdictMark :verdict="verdict" />
    <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
    <RefusedEntry :subject="test.id" :point="point" />
    <p v-if="derived" class="note">
      <span v-if="latest">by calculation</span>
      <PushButton kind="plain" v-else-if="!off" :data-derive="test.id" @click="calculate">
        By calculation: {{ derived.value }} {{ derived.unit }}
      </PushButton>
      {{ derived.working }}
    </p>
    <div v-if="latest && !changed" class="note takes"><TakeBack :entry="latest" :off="off || busy" /></div>
    <p v-if="unsent" class="note"><span class="unsent">○ kept here, not sent</span></p>
    <p v-else-if="latest && cameText(latest)" class="note">{{ momentText(latest.at) }}{{ cameText(latest) }}</p>
    <p v-if="latest && (changed || (verdict === 'stop' && !off))" class="note" data-again>
      <template v-if="changed">Tested again: the old reading stays on the record.</template>
      <template v-else>
        <b v-if="finding?.remedy" class="remedy">{{ finding.remedy }}.</b> What was wrong, and what was done?
      </template>
      <LineField
        v-model="reason"
        placeholder="cause and remedy"
        label="Cause and remedy"
        @keydown.enter.prevent="enter()"
        @blur="leave"
      />
    </p>
    <p v-for="e in old" :key="e.id" class="note old">
      <s class="mono">{{ e.value }} {{ e.unit }}</s> {{ e.by }}, {{ momentText(e.at) }}
    </p>
    <p v-if="latest?.reason" class="note">
      <b v-if="latest.instrument === 'calculated'">by calculation</b> {{ latest.reason }}
    </p>
  </div>
</template>

<style scoped>
/* Only in the row that somebody is in. */
.test:not(:focus-within) .takes {
  display: none;
}
.test {
  display: grid;
  grid-template-columns: minmax(0, 2.1fr) minmax(0, 1.4fr) 148px minmax(80px, 1.2fr) 22px;
  gap: 4px 12px;
  align-items: center;
  min-height: 42px;
  padding: 4px 8px;
  border-bottom: 1px solid var(--line);
  scroll-margin: 130px;
}
.hint {
  display: block;
  font-size: 12px;
  color: var(--slate);
}
.entry {
  display: flex;
  align-items: center;
  gap: 6px;
}
.choice {
  flex: 1;
}
.choice :deep(button) {
  white-space: normal;
}
.chosen {
  grid-column: 3 / span 2;
}
.unsent {
  border-left: 4px solid var(--watch);
  padding-left: 6px;
}
.remedy {
  display: inline-block;
}
.remedy::first-letter {
  text-transform: uppercase;
}
.unit {
  color: var(--slate);
  font-size: 12.5px;
}
.note,
.error {
  grid-column: 1 / -1;
  font-size: 12.5px;
  color: var(--slate);
}
.note .v-input {
  width: 260px;
  max-width: 100%;
}
@media (max-width: 719px) {
  .test {
    grid-template-columns: minmax(0, 1fr) 150px 22px;
  }
  .against {
    grid-row: 2;
    grid-column: 1;
    font-size: 12.5px;
  }
  .bar {
    grid-row: 2;
    grid-column: 2;
  }
  .chosen {
    grid-row: 1 / span 2;
    grid-column: 2;
  }
}
</style>
