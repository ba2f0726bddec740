<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef } from 'vue'
import type { Entry, Schemas } from '@/api/client'
import { useJob } from '@/composables/useJob'
import BoltMark from '@/kit/BoltMark.vue'
import LineField from '@/kit/LineField.vue'
import ListField from '@/kit/ListField.vue'
import PushButton from '@/kit/PushButton.vue'
import ReadingField from '@/kit/ReadingField.vue'
import { pad } from '@/kit/pad'
import { cameText, momentText } from '@/kit/dates'
import RefusedEntry from '../RefusedEntry.vue'
import TakeBack from '../TakeBack.vue'
import AnswerRoll from './AnswerRoll.vue'
import ProveDead from './ProveDead.vue'
import SettingForm from './SettingForm.vue'
import StepCorrect from './StepCorrect.vue'
import StepPhoto from './StepPhoto.vue'
import TorqueList from './TorqueList.vue'
import { waitsFor } from './nextStep'

/** One step of the work: what it waits for, what it records, and how to say that it is done. */
const props = defineProps<{ step: Schemas['Status']; open: boolean; off: boolean }>()
const emit = defineEmits<{ open: []; write: [Partial<Entry>[]]; vary: [string, string] }>()
const opened = useJob()
const value = ref('')
const card = useTemplateRef('card')
// A long list opens at the step whose turn it is.
onMounted(() => {
  if (props.open && (card.value?.offsetTop ?? 0) > window.innerHeight * 0.7)
    card.value?.scrollIntoView({ block: 'center' })
})
const waits = computed(() => waitsFor(props.step))
const state = computed(() => (props.step.done ? 'tight' : waits.value.length ? 'hollow' : 'part'))
const fields: Record<string, string> = {
  'prove-dead': 'install.prove-dead',
  energise: 'install.energise',
  settings: 'install.settings',
  remark: 'install.remark',
  labels: 'install.labels',
  board: 'install.torque',
  cable: 'install.cable',
}
const terminals = computed(() => {
  if (!props.step.records?.includes('torque')) return []
  const end = props.step.id === 'board' ? 'board-' : 'charger-'
  return opened.view.terminals.filter((t) => t.point === props.step.point && t.id.startsWith(end))
})
const summary = computed(() => {
  const e = props.step.entry
  if (e) return `${momentText(e.at)}, ${e.by}${e.value ? `: ${e.value}` : ''}${cameText(e)}`
  if (props.step.done) return 'done'
  return waits.value.length ? `waits for: ${waits.value.join(', ')}` : props.step.optional ? 'may be left out' : 'ready'
})
const kinds: Record<string, string> = {
  'route.length': 'length',
  'cable.size': 'conductor',
  'cable.family': 'cable',
  'breaker.rating': 'breaker',
  'breaker.curve': 'trip type',
  'holder.height': 'height',
  'place.name': 'place',
}
// Steps that follow from something else have no pictures of their own.
const follows = computed(() => ['prove-dead', 'dead-tests', 'energise'].includes(props.step.id))
const needsWord = computed(() => !!props.step.ask && props.step.id !== 'energise')
/** A number goes with its unit; one that was typed with another stays as it was typed. */
const worded = (said: string) => (props.step.unit && /^[\d.]+$/.test(said) ? `${said} ${props.step.unit}` : said)
function finish(said = worded(value.value.trim())) {
  emit('write', [
    { kind: 'step', subject: props.step.id, point: props.step.point || undefined, value: said || undefined },
  ])
}
</script>

<template>
  <li
    ref="card"
    class="step"
    :class="[state, { open }]"
    :data-step="step.id"
    :data-point="step.point"
    :data-field="fields[step.id]"
  >
    <BoltMark :state="state" :size="30" />
    <div class="body">
      <PushButton kind="own" class="title" :aria-expanded="open" @click="emit('open')">
        {{ step.title }}<template v-if="step.point"> · {{ step.point }}</template>
      </PushButton>
      <p class="quiet">
        {{ summary }}
        <span v-if="step.entry && opened.kept.includes(step.entry.id)" class="unsent">○ kept here, not sent</span>
      </p>
      <RefusedEntry :subject="step.id" :point="step.point" />
      <div v-if="open" class="inside">
        <p v-if="step.detail">{{ step.detail }}</p>
        <p v-if="step.inside && !step.done" class="quiet">For the lead of the crew, or a verifier.</p>
        <p v-for="p in step.papers" :key="p.paper" class="heed watch" :data-waits-paper="p.paper">
          {{ p.title }}: {{ p.why }}.
          <router-link :to="`/jobs/${opened.id}/clearances?field=clearances.${p.paper}`">To the paper</router-link>
        </p>
        <p v-if="step.caution" class="caution">
          <b>{{ step.caution }}</b> <span v-if="step.clause">{{ step.clause }}</span>
        </p>
        <TorqueList
          v-if="terminals.length && (step.done || !waits.length)"
          :point="step.point ?? ''"
          :terminals="terminals"
          :off="off"
          @write="emit('write', $event)"
        />
        <SettingForm
          v-if="step.id === 'settings' && (step.done || !waits.length)"
          :point="step.point ?? ''"
          :locks="step.choice ?? []"
          :off="off"
          @write="emit('write', $event)"
        />
        <StepPhoto
          v-if="!follows && (step.entry || !waits.length)"
          :step="step.id"
          :point="step.point"
          :asked="!!step.records?.includes('photo')"
          :off="off"
        />
        <StepCorrect
          v-if="step.entry && step.ask && step.id !== 'energise'"
          :step="step"
          :off="off"
          @write="emit('write', $event)"
        />
        <TakeBack v-if="step.entry && step.id !== 'energise'" :entry="step.entry" :off="off" />
        <ProveDead v-if="step.id === 'prove-dead'" :off="off" @write="emit('write', $event)" />
        <template v-else-if="!waits.length && !step.done">
          <AnswerRoll v-if="step.id === 'energise'" :off="off" @write="emit('write', $event)" />
          <p v-if="step.id === 'labels'" class="row" data-labels>
            <a class="btn plain" :href="`api/jobs/${opened.id}/labels.pdf`" download>Labels to cut out, PDF</a>
            <a class="btn plain" :href="`api/jobs/${opened.id}/labels.svg`" download>for a label printer, SVG</a>
          </p>
          <p v-if="step.id === 'dead-tests'">
            <router-link class="btn" :to="`/jobs/${opened.id}/commission`">To the readings</router-link>
          </p>
          <form v-else-if="step.id !== 'energise'" class="finish" @submit.prevent="finish()">
            <label v-if="needsWord">
              {{ step.ask }}
              <ListField
                v-if="step.choice?.length"
                :model-value="value"
                :options="step.choice.map((c) => ({ value: c, text: c }))"
                empty="choose"
                :disabled="off"
                @update:model-value="(c) => (value = c ?? '')"
              />
              <span v-else-if="step.unit" class="row">
                <ReadingField
                  v-model="value"
                  :entry="`${step.id} ${step.point ?? ''}`"
                  :unit="step.unit"
                  :keys="pad"
                  :changed="false"
                  :off="off"
                  @keydown.enter.prevent="value.trim() && finish()"
                />
                {{ step.unit }}
              </span>
              <LineField v-else v-model="value" :disabled="off" />
            </label>
            <PushButton kind="main" type="submit" :disabled="off || (needsWord && !value.trim())">Done</PushButton>
            <p v-if="step.changes?.length" class="quiet otherwise">
              Built otherwise?
              <PushButton
                kind="word"
                v-for="c in step.changes"
                :key="c"
                :disabled="off"
                :data-vary="c"
                @click="emit('vary', step.point ?? '', c)"
              >
                {{ kinds[c] }}
              </PushButton>
            </p>
          </form>
        </template>
      </div>
    </div>
  </li>
</template>

<style scoped>
.step {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr);
  gap: 12px;
  padding: 10px 4px;
  border-bottom: 1px solid var(--line);
  scroll-margin: 130px;
  --bolt-ground: var(--paper);
}
.open {
  background: var(--card);
  --bolt-ground: var(--card);
}
.title {
  font: inherit;
  font-weight: 600;
  font-size: 15px;
  color: var(--ink);
  background: none;
  border: 0;
  padding: 0;
  text-align: left;
  cursor: pointer;
  min-height: var(--tap);
  width: 100%;
}
.hollow .title {
  color: var(--slate);
}
.inside {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  margin: 8px 0 6px;
  max-width: 560px;
}
.caution {
  border-left: 5px solid var(--stop);
  padding: 4px 10px;
  color: var(--stop);
}
.caution span {
  color: var(--slate);
  font-size: 12.5px;
}
.finish {
  display: grid;
  gap: 10px;
}
.finish .btn.main {
  min-height: 48px;
}
.otherwise {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 14px;
}
.otherwise .link {
  min-height: var(--tap);
  font-size: 14px;
}
.unsent {
  border-left: 4px solid var(--watch);
  padding-left: 6px;
  white-space: nowrap;
}
</style>
