<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Entry, Schemas } from '@/api/client'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'
import { useStream } from './useStream'

/** The simulated tester on this circuit: it is pressed test by test, and what it shows is taken as a reading. */
const props = defineProps<{ point: string; tests: Schemas['Test'][] }>()
const emit = defineEmits<{ take: [Partial<Entry>[]] }>()
const opened = useJob()
const on = ref(false)
const done = computed(
  () => new Set(opened.standing.filter((e) => e.kind === 'reading' && e.point === props.point).map((e) => e.subject)),
)
const next = computed(() => props.tests.find((t) => !t.optional && !done.value.has(t.id)))
const stream = useStream<{ test: string; value: string; unit?: string }>((s) =>
  emit('take', [
    {
      kind: 'reading',
      subject: s.test,
      point: props.point,
      value: s.value,
      unit: s.unit,
      instrument: 'stand-in tester',
    },
  ]),
)
function toggle() {
  on.value = !on.value
  if (on.value) stream.connect(`/api/jobs/${opened.id}/points/${encodeURIComponent(props.point)}/tester?seed=7`)
  else stream.close()
}
</script>

<template>
  <span class="row stream" data-tester>
    <PushButton kind="plain" data-tester-open @click="toggle">
      {{ on ? 'Put the simulated tester away' : 'Simulated tester' }}
    </PushButton>
    <PushButton v-if="on && next" data-press @click="stream.send({ test: next.id })">
      Press: {{ next.title }}
    </PushButton>
    <span v-if="stream.error.value" class="error" role="alert">{{ stream.error.value }}</span>
  </span>
</template>

<style scoped>
.error {
  color: var(--stop);
}
</style>
