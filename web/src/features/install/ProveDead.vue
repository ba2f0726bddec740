<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Entry } from '@/api/client'
import { useDevice } from '@/composables/useDevice'
import { useJob } from '@/composables/useJob'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'
import TakeBack from '../TakeBack.vue'

/** Known source, every pair, known source again: the next one is always the big button. */
defineProps<{ off: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const device = useDevice()
const value = ref('')

interface Place {
  subject: string
  title: string
  source: boolean
  reading?: Entry
}
// Readings count from where the rules say: the main switched off, or the end of a silence.
const counts = computed(() => {
  const late = new Set((opened.view.job.log ?? []).slice(opened.view.isolation.from).map((e) => e.id))
  return opened.standing.filter((e) => e.kind === 'reading' && late.has(e.id))
})
const read = (subject: string) => counts.value.findLast((e) => e.subject === subject)
const places = computed<Place[]>(() => [
  { subject: 'dead:source before', title: 'source', source: true, reading: read('dead:source before') },
  ...opened.view.pairs.map((p) => ({
    subject: 'dead:' + p,
    title: p.replace('second ', '2nd source ').replace('-', '–'),
    source: false,
    reading: read('dead:' + p),
  })),
  { subject: 'dead:source after', title: 'source again', source: true, reading: read('dead:source after') },
])
const last = computed(() => counts.value.findLast((e) => places.value.some((p) => p.subject === e.subject)))
const iso = computed(() => opened.view.isolation)
const isLive = (p: Place) => !p.source && iso.value.live?.includes(p.subject.slice(5))
const again = ref('')
const next = computed(
  () => places.value.find((p) => p.subject === again.value) ?? places.value.find((p) => !p.reading || isLive(p)),
)
function record(v: string) {
  const at = next.value
  if (!at) return
  emit('write', [
    {
      kind: 'reading',
      subject: at.subject,
      value: v,
      unit: 'V',
      instrument: device.instrument || undefined,
      replaces: undefined,
    },
  ])
  value.value = ''
  again.value = ''
}
</script>

<template>
  <div class="prove">
    <div class="tiles">
      <PushButton
        kind="own"
        v-for="p in places"
        :key="p.subject"
        class="tile"
        :class="{ read: p.reading && !isLive(p), live: isLive(p), next: p.subject === next?.subject }"
        @click="again = p.subject"
      >
        <b>{{ p.title }}</b>
        <span class="mono">{{ p.reading ? `${p.reading.value} V${isLive(p) ? ', live' : ''}` : 'to read' }}</span>
      </PushButton>
    </div>
    <TakeBack v-if="last" :key="last.id" :entry="last" :off="off" />
    <form v-if="next && !iso.proved" @submit.prevent="record(value)">
      <PushButton kind="main" v-if="!next.source" class="big" :disabled="off" @click="record('0')">
        {{ next.title }} reads 0 V
      </PushButton>
      <label>
        {{
          next.source
            ? `The tester on the known source${next.subject.endsWith('after') ? ', again' : ''} shows, V`
            : 'or it shows, V'
        }}
        <span class="row nowrap">
          <LineField v-model="value" mono inputmode="decimal" :readonly="off" />
          <PushButton type="submit" :disabled="off || !value.trim()">Record</PushButton>
        </span>
      </label>
    </form>
  </div>
</template>

<style scoped>
.tiles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(88px, 1fr));
  gap: 8px;
}
.tile {
  font: inherit;
  color: var(--ink);
  background: var(--field);
  border: 1px solid var(--line);
  border-radius: 3px;
  min-height: 58px;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  cursor: pointer;
}
.read {
  background: var(--sound-soft);
  border-color: var(--sound);
}
.live {
  background: var(--stop-soft);
  border: 2px solid var(--stop);
}
.next {
  border: 2px solid var(--copper);
}
form {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  margin-top: 12px;
}
.big {
  min-height: 56px;
  font-size: 16px;
}
.nowrap .v-input {
  flex: 1 1 0;
}
.nowrap {
  flex-wrap: nowrap;
}
</style>
