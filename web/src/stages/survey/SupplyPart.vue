<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { conditions, minutes, phases } from '../options'
import IntervalFile from './IntervalFile.vue'
import MonthlyPeaks from './MonthlyPeaks.vue'

const supply = defineModel<Schemas['Supply']>({ required: true })
const at = (field: string) => `survey.supply.${field}`
const { page, asks, label, word } = useCountry()
const systems = terms<NonNullable<Schemas['Supply']['system']>>(page.value.systems)
</script>

<template>
  <FieldGroup :title="word('supply')">
    <ChoiceField v-model="supply.system" :name="at('system')" label="System" :options="systems" />
    <ChoiceField v-model="supply.phases" :name="at('phases')" label="Phases" :options="phases" />
    <NumberField v-model="supply.rating" :name="at('rating')" :label="label('supply.rating')" unit="A" :decimals="0" />
    <AnswerField v-model="supply.ratingSeen" :name="at('ratingSeen')" label="Read off the label itself?" />
    <ChoiceField
      v-model="supply.condition"
      :name="at('condition')"
      :label="label('supply.condition')"
      :options="conditions"
    />
    <TextField v-model="supply.voltage" :name="at('voltage')" :label="label('supply.voltage')" mono />
    <NumberField
      v-if="asks('supply.declaredZe') && supply.system !== 'tt'"
      v-model="supply.declaredZe"
      :name="at('declaredZe')"
      :label="label('supply.declaredZe')"
      unit="Ω"
    />
    <NumberField
      v-if="asks('supply.electrodeRa') && supply.system === 'tt'"
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
    <AnswerField v-model="supply.otherSource" :name="at('otherSource')" label="Solar, battery or generator?" />
    <TextField v-model="supply.mainSwitchAt" :name="at('mainSwitchAt')" label="Where the main switch is" />
    <template #below>
      <IntervalFile v-model="supply" />
      <MonthlyPeaks v-if="!supply.peakDemand" v-model="supply" />
    </template>
  </FieldGroup>
</template>
