<script setup lang="ts">
import { reactive } from 'vue'
import type { Entry, Schemas } from '@/api/client'
import { useDesk } from '@/composables/useJob'
import VerdictMark from '@/kit/VerdictMark.vue'

/** Each terminal with its label's figure and the torque it got. Blank until the label is read. */
const props = defineProps<{ point: string; terminals: Schemas['Terminal'][]; off: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const desk = useDesk()
const unit = desk.us ? 'in·lb' : 'N·m'
const target = reactive<Record<string, string>>({})
const value = reactive<Record<string, string>>({})
const recorded = (id: string) =>
  desk.view.job.log?.findLast((e) => e.kind === 'torque' && e.subject === id && e.point === props.point)
function record(id: string) {
  emit('write', [
    {
      kind: 'torque',
      subject: id,
      point: props.point,
      value: value[id],
      target: target[id],
      unit,
      replaces: recorded(id)?.id,
    },
  ])
}
</script>

<template>
  <div class="torque">
    <p class="quiet">Torque of each terminal against its label, {{ unit }}</p>
    <form v-for="t in terminals" :key="t.id" class="terminal" :data-terminal="t.id" @submit.prevent="record(t.id)">
      <span>{{ t.title }}</span>
      <template v-if="recorded(t.id)">
        <span class="mono">{{ recorded(t.id)!.value }} of {{ recorded(t.id)!.target }} {{ unit }}</span>
        <VerdictMark verdict="sound" />
      </template>
      <template v-else>
        <input
          v-model="target[t.id]"
          class="mono"
          inputmode="decimal"
          :disabled="off"
          placeholder="label"
          :aria-label="`${t.title}, label`"
        />
        <input
          v-model="value[t.id]"
          class="mono"
          inputmode="decimal"
          :disabled="off"
          placeholder="got"
          :aria-label="`${t.title}, torque`"
        />
        <button class="btn" type="submit" :disabled="off || !target[t.id] || !value[t.id]">Record</button>
      </template>
    </form>
  </div>
</template>

<style scoped>
.terminal {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 76px 76px auto;
  gap: 8px;
  align-items: center;
  padding: 4px 0;
}
.terminal .mono:not(input) {
  grid-column: 2 / 4;
}
input {
  font: inherit;
  font-family: 'Plex Mono', monospace;
  min-height: var(--tap);
  min-width: 0;
  color: var(--ink);
  background: var(--field);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 4px 8px;
}
</style>
