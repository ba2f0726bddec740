<script setup lang="ts">
import { computed } from 'vue'
import type { Entry } from '@/api/client'
import { useJob } from '@/composables/useJob'
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
      <button v-if="t.state !== 'started'" class="btn plain" type="button" @click="say('started')">
        {{ t.state === 'paused' ? 'Go on' : t.state === 'done' ? 'Start again' : 'Start the clock' }}
      </button>
      <template v-else>
        <button class="btn plain" type="button" @click="say('paused')">Pause</button>
        <button class="btn plain" type="button" @click="say('done')">Work done</button>
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
