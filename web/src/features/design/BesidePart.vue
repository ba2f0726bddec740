<script setup lang="ts">
import words from '@/api/words.json'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'
import { terms, useCountry } from '@/composables/useCountry'
import type { Design } from './shape'

/** A small board of the points' own, on the service's tails beside the board that was found. */
const design = defineModel<Design>({ required: true })
const { page } = useCountry()
type Beside = Design['beside']
const terminals = terms(page.value.terminals, (t) => Number(t) as NonNullable<Beside['terminals']>)
const openers = words.opener as { value: NonNullable<Beside['opens']>; text: string }[]

/** Of a board that is not fitted nothing is kept. */
function setFitted(fitted?: Beside['fitted']) {
  design.value.beside = fitted === 'yes' ? { ...design.value.beside, fitted } : { fitted }
}
</script>

<template>
  <FieldGroup id="design.beside" title="Small board of the points’ own">
    <AnswerField
      :model-value="design.beside.fitted"
      name="design.beside.fitted"
      label="A small board beside the old one?"
      hint="on the service’s tails, through connector blocks"
      @update:model-value="setFitted"
    />
    <template v-if="design.beside.fitted === 'yes'">
      <TextField v-model="design.beside.where" name="design.beside.where" label="Where it is fixed" />
      <AnswerField v-model="design.beside.outdoors" name="design.beside.outdoors" label="Outdoors?" />
      <TextField
        v-if="design.beside.outdoors === 'yes'"
        v-model="design.beside.ip"
        name="design.beside.ip"
        label="IP code"
        mono
      />
      <NumberField
        v-model="design.beside.ways"
        name="design.beside.ways"
        label="Ways beside its main switch"
        :decimals="0"
      />
      <NumberField
        v-model="design.beside.rating"
        name="design.beside.rating"
        label="Main switch"
        unit="A"
        :decimals="0"
      />
      <NumberField v-model="design.beside.breakingKa" name="design.beside.breakingKa" label="Devices break" unit="kA" />
      <NumberField
        v-model="design.beside.conditionalKa"
        name="design.beside.conditionalKa"
        label="Conditional rating"
        unit="kA"
        hint="on its label; empty: none"
      />
      <ChoiceField
        v-model="design.beside.terminals"
        name="design.beside.terminals"
        label="Breakers’ terminals marked for"
        empty="70 °C"
        :options="terminals.filter((t) => t.value !== 70)"
      />
      <NumberField v-model="design.beside.tails" name="design.beside.tails" label="Tails" unit="mm²" :decimals="0" />
      <NumberField v-model="design.beside.length" name="design.beside.length" label="Length of the tails" unit="m" />
      <NumberField
        v-model="design.beside.blocks"
        name="design.beside.blocks"
        label="Connector blocks"
        unit="A"
        :decimals="0"
      />
      <NumberField
        v-model="design.beside.earth"
        name="design.beside.earth"
        label="Conductor to its earth bar"
        unit="mm²"
        :decimals="0"
      />
      <ChoiceField
        v-model="design.beside.opens"
        name="design.beside.opens"
        label="Tails are made dead by"
        empty="choose"
        :options="openers"
      />
    </template>
  </FieldGroup>
</template>
