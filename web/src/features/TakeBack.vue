<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue'
import type { Entry } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'

/** Takes back what never should have been written: a new entry that says so. The old one stays on the record. */
const props = defineProps<{ entry: Entry; off: boolean }>()
const opened = useJob()
const open = ref(false)
const reason = ref('')
const { attempt, clear, wrong, busy } = useAttempt()
const field = useTemplateRef('field')
function ask() {
  open.value = true
  void nextTick(() => field.value?.focus())
}
function leave() {
  open.value = false
  clear()
}
async function take() {
  if (!(await attempt(() => opened.takeBack(props.entry, reason.value.trim())))) return
  reason.value = ''
  open.value = false
}
</script>

<template>
  <PushButton v-if="!open" kind="word" :disabled="off" data-take-back @click="ask">Take back</PushButton>
  <form v-else class="back" @submit.prevent="take">
    <label>
      why it is taken back; your name and this stay on the record
      <LineField ref="field" v-model="reason" data-take-back-why @keydown.esc="leave" />
    </label>
    <span class="row">
      <PushButton type="submit" :disabled="busy" data-take-back-now>Take it back</PushButton>
      <PushButton kind="plain" @click="leave">Leave it</PushButton>
    </span>
    <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
  </form>
</template>

<style scoped>
.back {
  display: grid;
  gap: 8px;
}
label {
  display: grid;
  font-size: 13px;
}
.link {
  min-height: var(--tap);
  justify-self: start;
}
</style>
