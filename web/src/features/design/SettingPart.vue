<script setup lang="ts">
import { computed } from 'vue'
import { useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { breakerPoles, classes, connections, curves } from '../options'
import CableFields from './CableFields.vue'
import type { Circuit } from './shape'

const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const at = (field: string) => `design.circuits.${props.index}.${field}`
const { asks, label } = useCountry()
const board = computed(() => circuit.value.connection === 'board')
/** A sub-main has no charger, and what is asked of one goes; what it ends in goes with it again. */
function setConnection(connection?: Circuit['connection']) {
  const c = circuit.value
  const was = c.connection
  c.connection = connection
  if (connection === 'board') {
    const { phases, terminals } = c.charger
    c.charger = { fate: 'none', phases, terminals }
    c.receptacle = {}
    c.earthing = {}
    c.existing = c.mended = c.managedTo = c.settingGuarded = c.dedicated = c.isolator = c.disconnect = undefined
    c.breaker.bothWays = c.isolatorFate = undefined
    for (const thing of [c.breaker, c.rcd, c.cable, c.beyond.cable]) thing.fate = undefined
  } else if (was === 'board') {
    c.end = {}
    c.charger.fate = undefined
  }
}
</script>

<template>
  <FieldGroup title="Setting, breaker and cable" tight>
    <NumberField
      v-model="circuit.setting"
      :name="at('setting')"
      :label="board ? 'Drawn over it at most' : 'Charger set to'"
      unit="A"
      :decimals="0"
    />
    <NumberField v-model="circuit.breaker.rating" :name="at('breaker.rating')" label="Breaker" unit="A" :decimals="0" />
    <ChoiceField
      v-model="circuit.breaker.poles"
      :name="at('breaker.poles')"
      label="Its poles"
      :options="breakerPoles"
    />
    <ChoiceField
      v-if="asks('circuit.breaker.curve')"
      v-model="circuit.breaker.curve"
      :name="at('breaker.curve')"
      :label="label('circuit.breaker.curve')"
      :options="curves"
    />
    <ChoiceField
      v-if="asks('circuit.breaker.energyClass')"
      v-model="circuit.breaker.energyClass"
      :name="at('breaker.energyClass')"
      :label="label('circuit.breaker.energyClass')"
      :options="classes"
    />
    <NumberField
      v-if="asks('circuit.breaker.letThrough')"
      v-model="circuit.breaker.letThrough"
      :name="at('breaker.letThrough')"
      :label="label('circuit.breaker.letThrough')"
      unit="A²s"
      :decimals="0"
      hint="by its maker's table; empty: by class"
    />
    <NumberField
      v-model="circuit.breaker.breakingKa"
      :name="at('breaker.breakingKa')"
      label="Breaks"
      unit="kA"
      hint="empty: as the board"
    />
    <AnswerField
      v-if="asks('circuit.breaker.bothWays') && circuit.charger.exports === 'yes'"
      v-model="circuit.breaker.bothWays"
      :name="at('breaker.bothWays')"
      :label="label('circuit.breaker.bothWays')"
      hint="breaker and residual device, as marked"
    />
    <AnswerField
      v-if="asks('circuit.settingGuarded') && !board"
      v-model="circuit.settingGuarded"
      :name="at('settingGuarded')"
      :label="label('circuit.settingGuarded')"
      hint="and on its label; else the nameplate counts"
    />
    <AnswerField v-if="!board" v-model="circuit.dedicated" :name="at('dedicated')" label="Circuit of its own?" />
    <ChoiceField
      :model-value="circuit.connection"
      :name="at('connection')"
      label="Connected"
      :options="connections"
      @update:model-value="setConnection"
    />
    <CableFields v-model="circuit.cable" :name="at('cable')" />
    <TextField v-model="circuit.why" :name="at('why')" label="Why this design" wide />
  </FieldGroup>
</template>
