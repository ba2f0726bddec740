<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Entry, Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useAwake } from '@/composables/useAwake'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import KeyPad from '@/kit/KeyPad.vue'
import LaterPart from '@/kit/LaterPart.vue'
import { nextStep } from './nextStep'
import LoggedNotice from '../LoggedNotice.vue'
import IsolationBanner from './IsolationBanner.vue'
import NearMiss from './NearMiss.vue'
import StepCard from './StepCard.vue'
import VariationPart from './VariationPart.vue'
import WorkClock from './WorkClock.vue'
import { momentText } from '@/kit/dates'

const opened = useJob()
useAwake()
const { may } = useMe()
const steps = computed(() => opened.view.steps)
const key = (s: Schemas['Status']) => s.id + (s.point ?? '')
const first = computed(() => nextStep(steps.value))
const chosen = ref('')
const open = computed(() => chosen.value || (first.value ? key(first.value) : ''))
const off = computed(() => opened.view.row.sealed || !may('write the log'))
/** Whether anything is opened: the repair of a setting proves nothing dead. */
const opens = computed(() => steps.value.some((s) => s.id === 'prove-dead'))
const done = computed(() => steps.value.filter((s) => s.done).length)
const { attempt, wrong, busy } = useAttempt()
const vary = ref<{ point: string; subject: string }>()
const notes = computed(() => opened.standing.filter((e) => e.kind === 'note'))

async function write(entries: Partial<Entry>[]) {
  if (await attempt(() => opened.log(entries))) chosen.value = ''
}
</script>

<template>
  <header class="row">
    <h1>Install</h1>
    <span class="quiet">{{ done }} of {{ steps.length }} steps done</span>
    <WorkClock :off="off || busy" @write="write" />
    <span class="grow" />
    <NearMiss @write="write" />
  </header>
  <IsolationBanner v-if="opens" :isolation="opened.view.isolation" />
  <p v-if="off && !opened.view.row.sealed" class="quiet off">Only the crew and the verifier write the log.</p>
  <p v-if="wrong" class="error" role="alert" data-field="install.error">{{ wrong }}</p>
  <ol class="steps" data-field="install.steps">
    <StepCard
      v-for="s in steps"
      :key="key(s)"
      :step="s"
      :open="open === key(s)"
      :off="off || busy"
      @open="chosen = key(s)"
      @write="write"
      @vary="(point, subject) => (vary = { point, subject })"
    />
  </ol>
  <LaterPart><KeyPad /></LaterPart>
  <LoggedNotice />
  <VariationPart :off="off || busy" :want="vary" @write="write" />
  <section v-if="notes.length" class="card notes" aria-label="Notes and near misses">
    <b>Notes and near misses</b>
    <p v-for="n in notes" :key="n.id">
      <span class="mono">{{ momentText(n.at) }}</span> {{ n.reason }}
    </p>
  </section>
</template>

<style scoped>
.steps {
  list-style: none;
  padding: 0;
  margin: 12px 0 0;
}
.error {
  position: sticky;
  top: 0;
  z-index: 4;
  color: var(--stop);
  background: var(--stop-soft);
  border-left: 5px solid var(--stop);
  padding: 10px 12px;
  font-weight: 600;
  margin-top: 10px;
}
@media (max-width: 719px) {
  .error {
    top: 64px; /* below the spine */
  }
}
.notes {
  margin-top: 14px;
}
.off {
  margin-top: 10px;
}
</style>
