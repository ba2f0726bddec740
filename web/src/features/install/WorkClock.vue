<script setup lang="ts">
import { computed } from 'vue'
import type { Entry } from '@/api/client'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'
import { clockText } from '@/kit/dates'

/** The clock of the work: started, paused, done. It teaches how long such jobs take. */
defineProps<{ off: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const t = computed(() => opened.view.time)
const say = (value: string) => emit('write', [{ kind: 'step', subject: 'clock', value }])
const words = computed(() => {
  const hours = `${t.value.hours.toFixed(1)} h`
  if (t.value.state === 'started') return `at work since ${clockText(t.value.since!)}`
  if (t.value.state === 'paused') return `paused after ${hours}`
  if (t.value.state === 'done') return `done in ${hours}`
  return ''
})
</script>

<template>
  <span class="clock" data-clock>
    <span v-if="words" class="mono">{{ words }}</span>
    <template v-if="!off">
      <PushButton kind="plain" v-if="t.state !== 'started'" @click="say('started')">
        {{ t.state === 'paused' ? 'Go on' : t.state === 'done' ? 'Start again' : 'Start the clock' }}
      </PushButton>
      <template v-else>
        <PushButton kind="plain" @click="say('paused')">Pause</PushButton>
        <PushButton kind="plain" @click="say('done')">Work done</PushButton>
      </template>
    </template>
  </span>
</template>

<style scoped>
.clock {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  font-size: 13px;
}
</style>
