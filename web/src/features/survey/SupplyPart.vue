<script setup lang="ts">
import type { Schemas } from '@/api/client'
import words from '@/api/words.json'
import { useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { minutes, phases } from '../options'
import IntervalFile from './IntervalFile.vue'
import MonthlyPeaks from './MonthlyPeaks.vue'
import SupplyMust from './SupplyMust.vue'

const supply = defineModel<Schemas['Supply']>({ required: true })
const at = (field: string) => `survey.supply.${field}`
const { asks, label, word } = useCountry()
const sources = words.source as { value: NonNullable<Schemas['Second']['kind']>; text: string }[]
/** Takes over an answer about the second source; one without an answer is none. */
function second(change: Schemas['Second']) {
  const now = { ...supply.value.second, ...change }
  if (now.kind !== 'backs-up') now.rating = now.other = now.earthed = undefined
  supply.value.second = Object.values(now).some((v) => v !== undefined) ? now : undefined
}
</script>

<template>
  <FieldGroup :title="word('supply')">
    <SupplyMust v-model="supply" />
    <template v-if="supply.otherSource === 'yes'">
      <ChoiceField
        :model-value="supply.second?.kind"
        :name="at('second.kind')"
        label="Second source, when the grid is out"
        :options="sources"
        @update:model-value="(kind) => second({ kind })"
      />
      <TextField
        :model-value="supply.second?.isolator"
        :name="at('second.isolator')"
        label="Where it is switched off and locked"
        @update:model-value="(isolator) => second({ isolator: isolator || undefined })"
      />
      <template v-if="supply.second?.kind === 'backs-up'">
        <NumberField
          :model-value="supply.second.rating"
          :name="at('second.rating')"
          label="It gives, for hours"
          unit="A"
          hint="per phase"
          @update:model-value="(rating) => second({ rating })"
        />
        <NumberField
          :model-value="supply.second.other"
          :name="at('second.other')"
          label="It carries besides, at most"
          unit="A"
          hint="per phase, without charging"
          @update:model-value="(other) => second({ other })"
        />
        <AnswerField
          :model-value="supply.second.earthed"
          :name="at('second.earthed')"
          label="Its neutral joined to an earth of its own then?"
          @update:model-value="(earthed) => second({ earthed })"
        />
      </template>
    </template>
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
