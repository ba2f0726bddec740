<script setup lang="ts">
import { computed } from 'vue'
import words from '@/api/words.json'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'
import { terms, useCountry } from '@/composables/useCountry'
import { upstream } from '../options'
import type { Design } from './shape'

/** A new board on the service's tails: a small one of the points' own beside the old board, or one in its place. */
const design = defineModel<Design>({ required: true })
const { page } = useCountry()
type Beside = Design['beside']
const terminals = terms(page.value.terminals, (t) => Number(t) as NonNullable<Beside['terminals']>)
const openers = words.opener as { value: NonNullable<Beside['opens']>; text: string }[]
const casings = words.casing as { value: NonNullable<Beside['made']>; text: string }[]
const renews = computed(() => design.value.beside.instead === 'yes')

/** Of a board that is not fitted nothing is kept. */
function setFitted(fitted?: Beside['fitted']) {
  design.value.beside = fitted === 'yes' ? { ...design.value.beside, fitted } : { fitted }
}

/** What only one of the two kinds is asked goes with it. */
function setInstead(instead?: Beside['instead']) {
  const b = { ...design.value.beside, instead }
  if (instead === 'yes') delete b.blocks
  else {
    delete b.taken
    delete b.ahead
    delete b.aheadRating
    delete b.protected
    delete b.tried
  }
  design.value.beside = b
}

/** Outdoors the IP code counts, indoors what the enclosure is made of. */
function setOutdoors(outdoors?: Beside['outdoors']) {
  const b = { ...design.value.beside, outdoors }
  if (outdoors === 'yes') delete b.made
  else delete b.ip
  design.value.beside = b
}

/** Of a device that is not there nothing is kept. */
function setAhead(ahead?: Beside['ahead']) {
  const b = { ...design.value.beside, ahead }
  if (!ahead || ahead === 'none') delete b.aheadRating
  design.value.beside = b
}
</script>

<template>
  <FieldGroup id="design.beside" title="New board on the service’s tails">
    <AnswerField
      :model-value="design.beside.fitted"
      name="design.beside.fitted"
      label="A new board?"
      hint="on the service’s tails"
      @update:model-value="setFitted"
    />
    <template v-if="design.beside.fitted === 'yes'">
      <AnswerField
        :model-value="design.beside.instead"
        name="design.beside.instead"
        label="In place of the old board?"
        hint="yes: its circuits move over; no: a small one beside it"
        @update:model-value="setInstead"
      />
      <TextField v-model="design.beside.where" name="design.beside.where" label="Where it is fixed" />
      <AnswerField
        :model-value="design.beside.outdoors"
        name="design.beside.outdoors"
        label="Outdoors?"
        @update:model-value="setOutdoors"
      />
      <TextField
        v-if="design.beside.outdoors === 'yes'"
        v-model="design.beside.ip"
        name="design.beside.ip"
        label="IP code"
        mono
      />
      <ChoiceField
        v-else-if="design.beside.outdoors === 'no'"
        v-model="design.beside.made"
        name="design.beside.made"
        label="Its enclosure is of"
        empty="choose"
        :options="casings"
      />
      <NumberField
        v-model="design.beside.ways"
        name="design.beside.ways"
        label="Ways beside its main switch"
        :decimals="0"
      />
      <NumberField
        v-if="renews"
        v-model="design.beside.taken"
        name="design.beside.taken"
        label="Ways of the circuits moved over"
        hint="taken on the new board"
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
        v-if="!renews"
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
      <template v-if="renews">
        <ChoiceField
          :model-value="design.beside.ahead"
          name="design.beside.ahead"
          label="Residual device in it, ahead of the points"
          empty="choose"
          :options="upstream"
          @update:model-value="setAhead"
        />
        <NumberField
          v-if="design.beside.ahead && design.beside.ahead !== 'none'"
          v-model="design.beside.aheadRating"
          name="design.beside.aheadRating"
          label="Its rated current"
          unit="A"
          hint="the whole demand is counted on it"
          :decimals="0"
        />
        <AnswerField
          v-model="design.beside.protected"
          name="design.beside.protected"
          label="Residual device for every circuit moved over?"
          hint="sockets, lighting of a household, cables in walls: 30 mA"
        />
        <AnswerField
          v-model="design.beside.tried"
          name="design.beside.tried"
          label="Those circuits tested before the change?"
          hint="faults told to the customer"
        />
      </template>
    </template>
  </FieldGroup>
</template>
