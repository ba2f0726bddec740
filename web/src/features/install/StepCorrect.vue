<script setup lang="ts">
import { ref } from 'vue'
import type { Entry, Schemas } from '@/api/client'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'

/** Corrects what a step recorded: a new entry that names the one it replaces. The old one stays in the log. */
const props = defineProps<{ step: Schemas['Status']; off: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const open = ref(false)
const value = ref('')
const reason = ref('')
function begin() {
  value.value = props.step.entry?.value ?? ''
  open.value = true
}
function write() {
  const { id, point } = props.step
  emit('write', [
    {
      kind: 'step',
      subject: id,
      point: point || undefined,
      value: value.value.trim(),
      reason: reason.value.trim(),
      replaces: props.step.entry!.id,
    },
  ])
  open.value = false
}
</script>

<template>
  <PushButton kind="plain" v-if="!open" :disabled="off" data-correct @click="begin">
    Correct what was written
  </PushButton>
  <form v-else @submit.prevent="write">
    <label>
      {{ step.ask }}
      <LineField v-model="value" data-correct-value />
    </label>
    <label>
      why
      <LineField v-model="reason" data-correct-why />
    </label>
    <PushButton type="submit" :disabled="!value.trim() || !reason.trim()">Replace it</PushButton>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
.btn {
  justify-self: start;
}
</style>
