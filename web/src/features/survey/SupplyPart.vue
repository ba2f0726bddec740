<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { minutes, phases } from '../options'
import IntervalFile from './IntervalFile.vue'
import MonthlyPeaks from './MonthlyPeaks.vue'
import SecondPart from './SecondPart.vue'
import SupplyMust from './SupplyMust.vue'

const supply = defineModel<Schemas['Supply']>({ required: true })
const at = (field: string) => `survey.supply.${field}`
const { asks, label, word } = useCountry()
</script>

<template>
  <FieldGroup :title="word('supply')">
    <SupplyMust v-model="supply" />
    <SecondPart v-if="supply.otherSource === 'yes' && supply.second" v-model="supply.second" />
    <ChoiceField v-model="supply.phases" :name="at('phases')" label="Phases" :options="phases" />
    <NumberField
      v-if="asks('supply.earthFault')"
      v-model="supply.earthFault"
      :name="at('earthFault')"
      :label="label('supply.earthFault')"
      unit="kA"
      hint="measured; empty: from Ze"
    />
    <NumberField
      v-model="supply.peakDemand"
      :name="at('peakDemand')"
      label="Highest measured demand"
      unit="A"
      hint="15 minutes; empty: by the table"
    />
    <NumberField
      v-if="supply.peakDemand"
      v-model="supply.peakDays"
      :name="at('peakDays')"
      label="Length of that record"
      unit="days"
      :decimals="0"
    />
    <template v-if="asks('supply.peakMinutes') && (supply.peakDemand || supply.monthly?.length)">
      <ChoiceField
        v-model="supply.peakMinutes"
        :name="at('peakMinutes')"
        :label="label('supply.peakMinutes')"
        :options="minutes"
      />
      <AnswerField v-model="supply.peakSeason" :name="at('peakSeason')" :label="label('supply.peakSeason')" />
    </template>
    <template v-if="asks('supply.transformerKva')">
      <NumberField
        v-model="supply.transformerKva"
        :name="at('transformerKva')"
        :label="label('supply.transformerKva')"
        unit="kVA"
        hint="where it can be read"
      />
      <NumberField
        v-if="supply.transformerKva"
        v-model="supply.transformerZ"
        :name="at('transformerZ')"
        label="Its impedance"
        unit="%"
      />
    </template>
    <TextField v-model="supply.mainSwitchAt" :name="at('mainSwitchAt')" label="Where the main switch is" />
    <template #below>
      <IntervalFile v-model="supply" />
      <MonthlyPeaks v-if="!supply.peakDemand" v-model="supply" />
    </template>
  </FieldGroup>
</template>
