<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Entry } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import ChoiceField from '@/kit/ChoiceField.vue'
import PushButton from '@/kit/PushButton.vue'
import CurrentPlot, { type Sight } from './CurrentPlot.vue'
import PilotScope from './PilotScope.vue'
import { useStream } from './useStream'

/** A simulated charger with a vehicle and a house: to practise on, and to show what the sequence asks for. */
const props = defineProps<{ point: string; off: boolean }>()
const emit = defineEmits<{ take: [Partial<Entry>[]] }>()
const opened = useJob()
const { page, asks } = useCountry()
const shown = ref(false)
const fault = ref<string | undefined>('none')
const sights = ref<Sight[]>([])
const now = computed(() => sights.value.at(-1))
const stream = useStream<Sight>((s) => {
  sights.value = [...sights.value.filter((x) => x.t > s.t - 60), s]
})
const states = [
  ['A', 'no vehicle'],
  ['B', 'connected'],
  ['C', 'charging'],
  ['D', 'ventilation'],
  ['E', 'pilot to earth'],
  ['F', 'unit faulty'],
] as const
const faults = [
  ['none', 'none'],
  ['wrong-duty', 'offers too much'],
  ['earth-ignored', 'goes on without earth'],
  ['neutral-ignored', 'goes on with an open neutral'],
  ['no-dc-stop', 'no direct current seen'],
  ['stuck-contactor', 'contactor stuck'],
  ['sensor-turned', 'sensor the wrong way'],
  ['slow-management', 'slow management'],
  ['pilot-not-judged', 'pilot not judged'],
].map(([value, text]) => ({ value, text }))
// A small load, half of what the supply is managed to, and one that leaves little for the vehicle.
const loads = computed(() => {
  const limit = now.value?.limit || page.value.services[0]
  return { small: 5, half: Math.round(limit / 2), big: Math.round(limit * 0.8) }
})
function begin() {
  sights.value = []
  stream.connect(
    `/api/jobs/${opened.id}/points/${encodeURIComponent(props.point)}/bench?fault=${fault.value ?? 'none'}`,
  )
}
function toggle() {
  shown.value = !shown.value
  if (shown.value) begin()
  else stream.close()
}
const reading = (subject: string, value: string, unit?: string) =>
  emit('take', [{ kind: 'reading', subject, point: props.point, value, unit, instrument: 'stand-in charger' }])
</script>

<template>
  <section class="card bench" data-bench>
    <header class="row">
      <h2>Simulated charger, vehicle and house</h2>
      <span class="quiet">to practise on; what is taken from it is marked as a stand-in’s</span>
      <span class="grow" />
      <PushButton kind="plain" data-bench-open @click="toggle">
        {{ shown ? 'Close' : 'Set it up' }}
      </PushButton>
    </header>
    <p v-if="stream.error.value" class="error" role="alert">{{ stream.error.value }}</p>
    <template v-if="shown">
      <ChoiceField
        v-model="fault"
        name="bench.fault"
        label="Hidden fault"
        :options="faults"
        @update:model-value="begin"
      />
      <div class="row states" role="group" aria-label="State of the pilot">
        <PushButton
          kind="plain"
          v-for="[s, words] in states"
          :key="s"
          :class="{ on: now?.state === s }"
          :aria-pressed="now?.state === s"
          :data-state-to="s"
          @click="stream.send({ state: s })"
        >
          <b>{{ s }}</b> {{ words }}
        </PushButton>
      </div>
      <div v-if="now" class="pair">
        <PilotScope :high="now.high" :low="now.low" :duty="now.duty" />
        <CurrentPlot :sights="sights" />
      </div>
      <p v-if="now" class="mono numbers" data-bench-now>
        duty {{ now.duty ? `${now.duty.toFixed(1)} %` : 'none' }} · offers {{ now.offered.toFixed(1) }} A · contactor
        {{ now.contactor ? 'closed' : 'open' }} · vehicle {{ now.amps.toFixed(1) }} A · total
        {{ now.total.toFixed(1) }} A
        <template v-if="now.fall"> · fell within {{ now.fall.toFixed(1) }} s</template>
        <b v-if="now.stopped" class="error"> · stopped: {{ now.stopped }}</b>
      </p>
      <div class="row">
        <PushButton
          kind="plain"
          v-for="(a, size) in loads"
          :key="size"
          :data-load="size"
          @click="stream.send({ house: a })"
        >
          House at {{ a }} A
        </PushButton>
        <PushButton kind="plain" data-leak @click="stream.send({ leak: 6 })">6 mA d.c.</PushButton>
        <PushButton kind="plain" data-earth @click="stream.send({ earth: false })">Earth off</PushButton>
        <PushButton kind="plain" v-if="asks('circuit.earthing.openPen')" @click="stream.send({ volts: 268 })">
          Neutral open
        </PushButton>
        <PushButton kind="plain" @click="stream.send({ reset: true, leak: 0, earth: true, volts: 230, house: 5 })">
          All right again
        </PushButton>
        <span class="grow" />
        <PushButton v-if="!off && now?.duty" data-take="pilot" @click="reading('pilot', now.duty.toFixed(1), '%')">
          Take the duty
        </PushButton>
        <PushButton v-if="!off && now?.fall" @click="reading('management-time', now.fall.toFixed(1), 's')">
          Take the time
        </PushButton>
      </div>
    </template>
  </section>
</template>

<style scoped>
.bench {
  margin-top: 14px;
  display: grid;
  gap: 12px;
}
.bench :deep([data-field='bench.fault']) {
  max-width: 300px;
}
.states .on {
  border-color: var(--copper);
  background: var(--band);
}
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 14px;
}
.numbers {
  font-size: 13.5px;
}
</style>
