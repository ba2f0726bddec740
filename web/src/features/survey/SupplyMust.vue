<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import BarField from '@/kit/BarField.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'
import { conditions, own } from '../options'

/** What every survey needs of the supply. */
const supply = defineModel<Schemas['Supply']>({ required: true })
const at = (field: string) => `survey.supply.${field}`
const { page, asks, label } = useCountry()
/** Of a second source that is not there nothing is kept. */
function setOther(answer?: Schemas['Supply']['otherSource']) {
  supply.value.otherSource = answer
  if (answer !== 'yes') supply.value.second = {}
}
/** The earth of a source of its own is no matter of the network's. */
function setSystem(system?: Schemas['Supply']['system']) {
  supply.value.system = system
  if (!own(system)) supply.value.sourceEarthed = undefined
}
const systems = terms<NonNullable<Schemas['Supply']['system']>>(page.value.systems)
</script>

<template>
  <BarField
    :model-value="supply.system"
    :name="at('system')"
    label="System"
    :options="systems"
    wide
    @update:model-value="setSystem"
  />
  <AnswerField
    v-if="own(supply.system)"
    v-model="supply.sourceEarthed"
    :name="at('sourceEarthed')"
    label="Its neutral joined to an earth of its own?"
  />
  <NumberField
    v-model="supply.rating"
    :name="at('rating')"
    :label="own(supply.system) ? 'It gives, for hours' : label('supply.rating')"
    unit="A"
    :decimals="0"
  />
  <AnswerField v-model="supply.ratingSeen" :name="at('ratingSeen')" label="Read off the label itself?" />
  <BarField
    v-model="supply.condition"
    :name="at('condition')"
    :label="own(supply.system) ? 'Source, cable, earth look' : label('supply.condition')"
    :options="conditions"
  />
  <AnswerField
    :model-value="supply.otherSource"
    :name="at('otherSource')"
    label="Solar, battery, generator, second service?"
    @update:model-value="setOther"
  />
  <TextField v-model="supply.voltage" :name="at('voltage')" :label="label('supply.voltage')" mono />
  <NumberField
    v-if="asks('supply.declaredZe') && supply.system !== 'tt'"
    v-model="supply.declaredZe"
    :name="at('declaredZe')"
    :label="own(supply.system) ? 'Loop at its board' : label('supply.declaredZe')"
    unit="Ω"
  />
  <NumberField
    v-if="asks('supply.electrodeRa') && (supply.system === 'tt' || own(supply.system))"
    v-model="supply.electrodeRa"
    :name="at('electrodeRa')"
    :label="label('supply.electrodeRa')"
    unit="Ω"
  />
  <NumberField
    v-if="asks('supply.faultCurrent')"
    v-model="supply.faultCurrent"
    :name="at('faultCurrent')"
    :label="label('supply.faultCurrent')"
    unit="kA"
    hint="declared or measured"
  />
</template>
