<script setup lang="ts">
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { breakerPoles, classes, connections, curves, earths, metals } from '../options'
import type { Circuit } from './shape'

const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const at = (field: string) => `design.circuits.${props.index}.${field}`
const { page, asks, label } = useCountry()
const families = terms<NonNullable<Circuit['cable']['family']>>(page.value.families)
</script>

<template>
  <FieldGroup title="Setting, breaker and cable" tight>
    <NumberField v-model="circuit.setting" :name="at('setting')" label="Charger set to" unit="A" :decimals="0" />
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
      v-if="asks('circuit.settingGuarded')"
      v-model="circuit.settingGuarded"
      :name="at('settingGuarded')"
      :label="label('circuit.settingGuarded')"
      hint="and on its label; else the nameplate counts"
    />
    <AnswerField v-model="circuit.dedicated" :name="at('dedicated')" label="Circuit of its own?" />
    <ChoiceField v-model="circuit.connection" :name="at('connection')" label="Connected" :options="connections" />
    <ChoiceField v-model="circuit.cable.family" :name="at('cable.family')" label="Cable" :options="families" />
    <TextField v-model="circuit.cable.size" :name="at('cable.size')" label="Size, as printed" mono />
    <ChoiceField
      v-if="asks('circuit.cable.earth')"
      v-model="circuit.cable.earth"
      :name="at('cable.earth')"
      :label="label('circuit.cable.earth')"
      :options="earths"
    />
    <TextField
      v-if="asks('circuit.cable.earthSize')"
      v-model="circuit.cable.earthSize"
      :name="at('cable.earthSize')"
      :label="label('circuit.cable.earthSize')"
      mono
    />
    <ChoiceField
      v-if="asks('circuit.cable.material')"
      v-model="circuit.cable.material"
      :name="at('cable.material')"
      :label="label('circuit.cable.material')"
      :options="metals"
    />
    <AnswerField
      v-if="asks('circuit.cable.wetMarked') && circuit.cable.family === 'mc'"
      v-model="circuit.cable.wetMarked"
      :name="at('cable.wetMarked')"
      :label="label('circuit.cable.wetMarked')"
    />
    <AnswerField
      v-if="asks('circuit.cable.whiteIsHot')"
      v-model="circuit.cable.whiteIsHot"
      :name="at('cable.whiteIsHot')"
      :label="label('circuit.cable.whiteIsHot')"
    />
    <TextField v-model="circuit.why" :name="at('why')" label="Why this design" wide />
  </FieldGroup>
</template>
