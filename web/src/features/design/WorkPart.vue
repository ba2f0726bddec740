<script setup lang="ts">
import { computed } from 'vue'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { fates, phases } from '../options'
import MendedFields from './MendedFields.vue'
import type { Circuit } from './shape'

/** What was there before the work, and what becomes of it: of a new circuit everything is new, and nothing more is asked. */
const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const { page } = useCountry()
const terminals = terms(page.value.terminals, (t) => Number(t) as NonNullable<Circuit['charger']['terminals']>)
const at = (field: string) => `design.circuits.${props.index}.${field}`
const there = computed(() => circuit.value.existing === 'yes')
const goes = computed(() => circuit.value.charger.fate === 'taken-out')
const stays = computed(() => circuit.value.charger.fate === 'kept')
const outlet = computed(() => circuit.value.connection === 'receptacle' || !!circuit.value.receptacle.fate)
/** An outlet for a charger to come. */
const none = computed(() => circuit.value.charger.fate === 'none')
/** A sub-main ends in a board: nothing of it was there. */
const board = computed(() => circuit.value.connection === 'board')
type Fate = Circuit['charger']['fate']

/** The words of a choice: the one that holds where nothing is chosen is its empty line. */
const but = (usual: Fate, now: Fate, ...of: NonNullable<Fate>[]) => fates(...of.filter((o) => o !== usual || o === now))

/** What of the circuit is asked beside its charger. */
const things = computed(() => {
  const { breaker, rcd, receptacle, connection } = circuit.value
  const left = fates('kept', 'taken-out')
  if (goes.value)
    return [
      { thing: 'breaker', label: 'Breaker', empty: 'choose', options: left },
      { thing: 'cable', label: 'Cable', empty: 'choose', options: left },
    ] as const
  const devices = [
    { thing: 'breaker', label: 'Breaker', empty: 'stays', options: but('kept', breaker.fate, 'kept', 'replaced') },
    {
      thing: 'rcd',
      label: 'Residual device',
      empty: 'stays',
      options: but('kept', rcd.fate, 'kept', 'replaced', 'new'),
    },
    {
      thing: 'receptacle',
      label: 'Outlet that was there',
      empty: outlet.value ? 'stays' : 'none',
      options: connection === 'receptacle' ? but('kept', receptacle.fate, 'kept', 'replaced') : fates('taken-out'),
    },
  ] as const
  return devices.filter((d) => d.thing !== 'rcd' || rcd.fitted === 'yes' || rcd.fate)
})

/** Of a circuit that was not there nothing is kept. */
function setThere(existing?: Circuit['existing']) {
  circuit.value.existing = existing
  if (existing === 'yes') return
  for (const thing of ['charger', 'breaker', 'rcd', 'cable', 'receptacle'] as const)
    circuit.value[thing].fate = undefined
  circuit.value.beyond.cable.fate = undefined
  circuit.value.isolatorFate = undefined
  circuit.value.mended = undefined
  circuit.value.charger.closes = undefined
}
/** A charger that goes is set to nothing, and its breaker and cable go only with it. */
function setCharger(fate?: Fate) {
  const c = circuit.value
  c.charger.fate = fate
  if (fate === 'taken-out') c.setting = c.managedTo = c.isolatorFate = undefined
  else {
    if (c.breaker.fate === 'taken-out') c.breaker.fate = undefined
    if (c.cable.fate) c.cable.fate = undefined
  }
  if (fate !== 'kept') c.mended = undefined
  else c.charger.moved = undefined
  if (fate === 'kept' || fate === 'new') c.charger.closes = undefined
}
</script>

<template>
  <FieldGroup title="What was there, and what becomes of it">
    <AnswerField
      v-if="!board"
      :model-value="circuit.existing"
      :name="at('existing')"
      :label="outlet ? 'Outlet and circuit are there already?' : 'Circuit is there already?'"
      @update:model-value="setThere"
    />
    <template v-if="there">
      <ChoiceField
        :model-value="circuit.charger.fate"
        :name="at('charger.fate')"
        label="Charger"
        :empty="outlet ? 'new' : 'replaced'"
        :options="
          but(
            outlet ? 'new' : 'replaced',
            circuit.charger.fate,
            'new',
            'replaced',
            'kept',
            'taken-out',
            ...(outlet ? (['none'] as const) : []),
          )
        "
        @update:model-value="setCharger"
      />
      <ChoiceField
        v-for="t in things"
        :key="t.thing"
        v-model="circuit[t.thing].fate"
        :name="at(`${t.thing}.fate`)"
        :label="t.label"
        :empty="t.empty"
        :options="t.options"
      />
      <ChoiceField
        v-if="!goes && (circuit.isolator === 'yes' || circuit.disconnect === 'yes')"
        v-model="circuit.isolatorFate"
        :name="at('isolatorFate')"
        label="Isolator or disconnect"
        :empty="stays ? 'stays' : 'new'"
        :options="but(stays ? 'kept' : 'new', circuit.isolatorFate, 'new', 'kept', 'replaced')"
      />
    </template>
    <template v-else-if="circuit.connection === 'receptacle' || board">
      <ChoiceField
        v-if="!board"
        :model-value="circuit.charger.fate"
        :name="at('charger.fate')"
        label="Charger"
        empty="comes with this work"
        :options="fates('none')"
        @update:model-value="setCharger"
      />
      <template v-if="none">
        <ChoiceField v-model="circuit.charger.phases" :name="at('charger.phases')" label="Phases" :options="phases" />
        <ChoiceField
          v-model="circuit.charger.terminals"
          :name="at('charger.terminals')"
          :label="board ? 'Terminals at its end marked for' : 'Outlet’s terminals marked for'"
          :options="terminals"
        />
      </template>
    </template>
    <MendedFields v-if="stays" v-model="circuit" :index="index" />
    <template v-if="goes">
      <TextField v-model="circuit.charger.type" :name="at('charger.type')" label="Its type, in your words" />
      <TextField v-model="circuit.charger.serial" :name="at('charger.serial')" label="Serial number" mono />
    </template>
    <TextField
      v-if="!stays && !none"
      v-model="circuit.charger.moved"
      :name="at('charger.moved')"
      :label="goes ? 'Moves to, as job' : 'Comes from another address, job'"
      hint="left empty: it does not move"
      mono
    />
    <TextField
      v-if="there && !stays && circuit.charger.fate !== 'new'"
      v-model="circuit.charger.closes"
      :name="at('charger.closes')"
      label="Put up by job"
      hint="whose record this one closes"
      mono
    />
  </FieldGroup>
</template>
