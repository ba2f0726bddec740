<script setup lang="ts">
import type { Schemas } from '@/api/client'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import SheetGroup from '@/kit/SheetGroup.vue'
import TextField from '@/kit/TextField.vue'
import { conditions, phases, systems } from '../options'
import IntervalFile from './IntervalFile.vue'
import MonthlyPeaks from './MonthlyPeaks.vue'

defineProps<{ us: boolean }>()
const supply = defineModel<Schemas['Supply']>({ required: true })
const at = (field: string) => `survey.supply.${field}`
</script>

<template>
  <SheetGroup :title="us ? 'Service' : 'Supply'">
    <ChoiceField v-model="supply.system" :name="at('system')" label="System" :options="us ? systems.us : systems.uk" />
    <ChoiceField v-model="supply.phases" :name="at('phases')" label="Phases" :options="phases" />
    <NumberField
      v-model="supply.rating"
      :name="at('rating')"
      :label="us ? 'Service disconnect' : 'Cutout fuse'"
      unit="A"
      :decimals="0"
    />
    <AnswerField v-model="supply.ratingSeen" :name="at('ratingSeen')" label="Read off the label itself?" />
    <ChoiceField
      v-model="supply.condition"
      :name="at('condition')"
      :label="us ? 'Service equipment looks' : 'Cutout, cable, earth terminal look'"
      :options="conditions"
    />
    <TextField
      v-model="supply.voltage"
      :name="at('voltage')"
      :label="us ? 'Voltage, hot to hot, V' : 'Voltage, line to neutral, V'"
      mono
    />
    <template v-if="!us">
      <NumberField
        v-if="supply.system !== 'tt'"
        v-model="supply.declaredZe"
        :name="at('declaredZe')"
        label="Ze declared"
        unit="Ω"
      />
      <NumberField v-else v-model="supply.electrodeRa" :name="at('electrodeRa')" label="Earth electrode" unit="Ω" />
      <NumberField
        v-model="supply.faultCurrent"
        :name="at('faultCurrent')"
        label="Prospective fault current"
        unit="kA"
        hint="declared or measured"
      />
      <NumberField
        v-model="supply.earthFault"
        :name="at('earthFault')"
        label="Earth fault current"
        unit="kA"
        hint="measured; empty: from Ze"
      />
    </template>
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
    <AnswerField v-model="supply.otherSource" :name="at('otherSource')" label="Solar, battery or generator?" />
    <TextField v-model="supply.mainSwitchAt" :name="at('mainSwitchAt')" label="Where the main switch is" />
    <template #below>
      <IntervalFile v-model="supply" />
      <MonthlyPeaks v-if="!supply.peakDemand" v-model="supply" />
    </template>
  </SheetGroup>
</template>
