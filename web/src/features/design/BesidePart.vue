<script setup lang="ts">
import { computed } from 'vue'
import words from '@/api/words.json'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'
import { terms, useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import { enclosures, upstream } from '../options'
import type { Design } from './shape'

/** A new board: a small one of the points' own on the service's tails, beside the old board, or one in its place. */
const design = defineModel<Design>({ required: true })
const { asks, label, page, height } = useCountry()
const opened = useJob()
type Beside = Design['beside']
const terminals = terms(page.value.terminals, (t) => Number(t) as NonNullable<Beside['terminals']>)
const openers = words.opener as { value: NonNullable<Beside['opens']>; text: string }[]
const casings = words.casing as { value: NonNullable<Beside['made']>; text: string }[]
const renews = computed(() => design.value.beside.instead === 'yes')
/** What feeds the old board goes to the new one as it is: there are no tails. */
const onSubMain = computed(() => renews.value && opened.view.job.survey?.board?.fedFrom === 'sub-main')
/** What a service is asked alone. */
const atService = computed(() => opened.view.job.survey?.board?.fedFrom === 'service')

/** Of a board that is not fitted nothing is kept. */
function setFitted(fitted?: Beside['fitted']) {
  const instead = asks('beside.instead') ? design.value.beside.instead : fitted
  design.value.beside = fitted === 'yes' ? { ...design.value.beside, fitted, instead } : { fitted }
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

/** Outdoors the IP code or the type counts, indoors what the enclosure is made of. */
function setOutdoors(outdoors?: Beside['outdoors']) {
  const b = { ...design.value.beside, outdoors }
  if (outdoors === 'yes') delete b.made
  else {
    delete b.ip
    delete b.case
  }
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
  <FieldGroup id="design.beside" :title="label('design.beside')">
    <AnswerField
      :model-value="design.beside.fitted"
      name="design.beside.fitted"
      label="Fitted with this work?"
      @update:model-value="setFitted"
    />
    <template v-if="design.beside.fitted === 'yes'">
      <AnswerField
        v-if="asks('beside.instead')"
        :model-value="design.beside.instead"
        name="design.beside.instead"
        :label="label('beside.instead')"
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
        v-if="asks('beside.ip') && design.beside.outdoors === 'yes'"
        v-model="design.beside.ip"
        name="design.beside.ip"
        :label="label('beside.ip')"
        mono
      />
      <ChoiceField
        v-if="asks('beside.case') && design.beside.outdoors === 'yes'"
        v-model="design.beside.case"
        name="design.beside.case"
        :label="label('beside.case')"
        empty="choose"
        :options="enclosures"
      />
      <ChoiceField
        v-if="asks('beside.made') && design.beside.outdoors === 'no'"
        v-model="design.beside.made"
        name="design.beside.made"
        :label="label('beside.made')"
        empty="choose"
        :options="casings"
      />
      <NumberField v-model="design.beside.ways" name="design.beside.ways" :label="label('beside.ways')" :decimals="0" />
      <NumberField
        v-if="renews"
        v-model="design.beside.taken"
        name="design.beside.taken"
        :label="label('beside.taken')"
        hint="taken on the new one"
        :decimals="0"
      />
      <NumberField
        v-model="design.beside.rating"
        name="design.beside.rating"
        :label="label('beside.rating')"
        unit="A"
        :decimals="0"
      />
      <NumberField v-model="design.beside.breakingKa" name="design.beside.breakingKa" label="Devices break" unit="kA" />
      <NumberField
        v-if="asks('beside.conditionalKa')"
        v-model="design.beside.conditionalKa"
        name="design.beside.conditionalKa"
        :label="label('beside.conditionalKa')"
        unit="kA"
        hint="on its label; empty: none"
      />
      <ChoiceField
        v-model="design.beside.terminals"
        name="design.beside.terminals"
        label="Breakers’ terminals marked for"
        empty="not said"
        :options="terminals"
      />
      <template v-if="asks('beside.tails') && !onSubMain">
        <NumberField
          v-model="design.beside.tails"
          name="design.beside.tails"
          :label="label('beside.tails')"
          unit="mm²"
          :decimals="0"
        />
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
      </template>
      <ChoiceField
        v-model="design.beside.opens"
        name="design.beside.opens"
        :label="label('beside.opens')"
        empty="choose"
        :options="openers"
      />
      <template v-if="renews && asks('beside.ahead')">
        <ChoiceField
          :model-value="design.beside.ahead"
          name="design.beside.ahead"
          :label="label('beside.ahead')"
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
          :label="label('beside.protected')"
          hint="for sockets, lighting of a household, cables in walls"
        />
        <AnswerField
          v-model="design.beside.tried"
          name="design.beside.tried"
          :label="label('beside.tried')"
          hint="faults told to the customer"
        />
      </template>
      <template v-if="renews && asks('beside.grounded')">
        <AnswerField v-model="design.beside.space" name="design.beside.space" :label="label('beside.space')" />
        <NumberField
          v-model="design.beside.handle"
          name="design.beside.handle"
          :label="label('beside.handle')"
          v-bind="height"
        />
        <AnswerField
          v-model="design.beside.grounded"
          name="design.beside.grounded"
          :label="label('beside.grounded')"
          hint="at the service: main bonding jumper, electrodes; on a feeder: neutral apart"
        />
        <template v-if="atService">
          <AnswerField v-model="design.beside.surge" name="design.beside.surge" :label="label('beside.surge')" />
          <AnswerField v-model="design.beside.outside" name="design.beside.outside" :label="label('beside.outside')" />
        </template>
      </template>
    </template>
  </FieldGroup>
</template>
