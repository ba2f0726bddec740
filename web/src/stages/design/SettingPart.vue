<script setup lang="ts">
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import SheetGroup from '@/kit/SheetGroup.vue'
import TextField from '@/kit/TextField.vue'
import { classes, connections, curves, earths, families, metals } from '../options'
import type { Circuit } from './shape'

const props = defineProps<{ index: number; us: boolean }>()
const circuit = defineModel<Circuit>({ required: true })
const at = (field: string) => `design.circuits.${props.index}.${field}`
</script>

<template>
  <SheetGroup title="Setting, breaker and cable" tight>
    <NumberField v-model="circuit.setting" :name="at('setting')" label="Charger set to" unit="A" :decimals="0" />
    <NumberField v-model="circuit.breaker.rating" :name="at('breaker.rating')" label="Breaker" unit="A" :decimals="0" />
    <ChoiceField
      v-if="!us"
      v-model="circuit.breaker.curve"
      :name="at('breaker.curve')"
      label="Breaker type"
      :options="curves"
    />
    <ChoiceField
      v-if="!us"
      v-model="circuit.breaker.energyClass"
      :name="at('breaker.energyClass')"
      label="Energy class"
      :options="classes"
    />
    <NumberField
      v-model="circuit.breaker.breakingKa"
      :name="at('breaker.breakingKa')"
      label="Breaks"
      unit="kA"
      hint="empty: as the board"
    />
    <AnswerField v-model="circuit.dedicated" :name="at('dedicated')" label="Circuit of its own?" />
    <ChoiceField v-model="circuit.connection" :name="at('connection')" label="Connected" :options="connections" />
    <ChoiceField
      v-model="circuit.cable.family"
      :name="at('cable.family')"
      label="Cable"
      :options="us ? families.us : families.uk"
    />
    <TextField v-model="circuit.cable.size" :name="at('cable.size')" label="Size, as printed" mono />
    <ChoiceField
      v-if="!us"
      v-model="circuit.cable.earth"
      :name="at('cable.earth')"
      label="Protective conductor"
      :options="earths"
    />
    <template v-else>
      <TextField v-model="circuit.cable.earthSize" :name="at('cable.earthSize')" label="Equipment ground" mono />
      <ChoiceField v-model="circuit.cable.material" :name="at('cable.material')" label="Metal" :options="metals" />
      <AnswerField v-model="circuit.cable.whiteIsHot" :name="at('cable.whiteIsHot')" label="White used as a hot?" />
    </template>
    <TextField v-model="circuit.why" :name="at('why')" label="Why this design" wide />
  </SheetGroup>
</template>
