<script setup lang="ts">
import { computed } from 'vue'
import words from '@/api/words.json'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { boxes, openPen, poles, rcdTypes, spd } from '../options'
import type { Circuit } from './shape'

const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const at = (field: string) => `design.circuits.${props.index}.${field}`
const { asks, label } = useCountry()
const opened = useJob()
const board = computed(() => circuit.value.connection === 'board')
const sides = words.side as { value: NonNullable<Circuit['side']>; text: string }[]
/** Of an isolator that is not there nothing becomes. */
function setIsolator(which: 'isolator' | 'disconnect', there?: Circuit['isolator']) {
  circuit.value[which] = there
  if (circuit.value.isolator !== 'yes' && circuit.value.disconnect !== 'yes') circuit.value.isolatorFate = undefined
}
/** Three currents or none: the rule needs all of them. */
function setLoad(phase: number, amps?: number) {
  const loads = [0, 1, 2].map((i) => (i === phase ? (amps ?? 0) : (circuit.value.earthing.loads?.[i] ?? 0)))
  circuit.value.earthing.loads = loads.some((a) => a > 0) ? loads : []
}
</script>

<template>
  <FieldGroup :title="label('circuit.protection')">
    <ChoiceField
      v-if="circuit.side || opened.view.job.survey?.supply?.otherSource === 'yes'"
      v-model="circuit.side"
      :name="at('side')"
      label="Beside the second source"
      :options="sides"
    />
    <template v-if="asks('circuit.receptacle') && circuit.connection === 'receptacle'">
      <NumberField
        v-model="circuit.receptacle.rating"
        :name="at('receptacle.rating')"
        :label="label('circuit.receptacle')"
        unit="A"
        :decimals="0"
      />
      <AnswerField v-model="circuit.receptacle.gfci" :name="at('receptacle.gfci')" label="Ground-fault protected?" />
      <AnswerField
        v-model="circuit.receptacle.neutral"
        :name="at('receptacle.neutral')"
        label="Pattern has a neutral?"
      />
      <AnswerField
        v-model="circuit.receptacle.inUseCover"
        :name="at('receptacle.inUseCover')"
        label="Weatherproof while in use?"
        hint="outdoors"
      />
      <AnswerField
        v-model="circuit.receptacle.cordClear"
        :name="at('receptacle.cordClear')"
        :label="label('circuit.receptacle.cordClear')"
        hint="plugged in, the unit's own cord"
      />
      <ChoiceField v-model="circuit.receptacle.box" :name="at('receptacle.box')" label="Its box" :options="boxes" />
      <ChoiceField
        v-model="circuit.receptacle.gangs"
        :name="at('receptacle.gangs')"
        label="Gangs wide"
        :options="poles.slice(0, 2) as { value: 1 | 2; text: string }[]"
      />
      <AnswerField v-model="circuit.receptacle.clamps" :name="at('receptacle.clamps')" label="Clamps inside the box?" />
    </template>
    <template v-if="asks('circuit.rcd')">
      <AnswerField v-model="circuit.rcd.fitted" :name="at('rcd.fitted')" :label="label('circuit.rcd')" />
      <ChoiceField v-model="circuit.rcd.type" :name="at('rcd.type')" label="Its type" :options="rcdTypes" />
      <NumberField v-model="circuit.rcd.tripMa" :name="at('rcd.tripMa')" label="Rated residual current" unit="mA" />
      <AnswerField v-model="circuit.rcd.allPoles" :name="at('rcd.allPoles')" label="Opens the neutral too?" />
      <AnswerField v-model="circuit.rcd.delayed" :name="at('rcd.delayed')" label="Delayed (S)?" />
    </template>
    <template v-if="asks('circuit.earthing.openPen') && !board">
      <ChoiceField
        v-model="circuit.earthing.openPen"
        :name="at('earthing.openPen')"
        :label="label('circuit.earthing.openPen')"
        :options="openPen"
      />
      <template v-if="circuit.earthing.openPen === 'tt' || circuit.earthing.openPen === 'electrode'">
        <NumberField v-model="circuit.earthing.ra" :name="at('earthing.ra')" label="Point's electrode" unit="Ω" />
        <NumberField
          v-model="circuit.earthing.separation"
          :name="at('earthing.separation')"
          label="From metal on the PME earth"
          unit="m"
        />
        <AnswerField
          v-if="circuit.earthing.openPen === 'tt' && circuit.cable.family?.startsWith('armoured')"
          v-model="circuit.earthing.armourApart"
          :name="at('earthing.armourApart')"
          label="Armour insulated at the point?"
        />
      </template>
      <template v-if="circuit.earthing.openPen === 'imbalance'">
        <NumberField
          v-for="n in 3"
          :key="n"
          :model-value="circuit.earthing.loads?.[n - 1]"
          :name="at(`earthing.loads.${n - 1}`)"
          :label="`Normal load, L${n}`"
          unit="A"
          @update:model-value="(v) => setLoad(n - 1, v)"
        />
      </template>
    </template>
    <AnswerField
      v-if="asks('circuit.faultByRcd')"
      v-model="circuit.faultByRcd"
      :name="at('faultByRcd')"
      :label="label('circuit.faultByRcd')"
    />
    <ChoiceField v-model="circuit.spd" :name="at('spd')" label="Surge protection" :options="spd" />
    <TextField
      v-if="asks('circuit.spdReason') && circuit.spd === 'declined'"
      v-model="circuit.spdReason"
      :name="at('spdReason')"
      :label="label('circuit.spdReason')"
    />
    <AnswerField
      v-if="asks('circuit.isolator') && !board"
      :model-value="circuit.isolator"
      :name="at('isolator')"
      :label="label('circuit.isolator')"
      no="at the board"
      @update:model-value="(v) => setIsolator('isolator', v)"
    />
    <AnswerField
      v-if="asks('circuit.disconnect') && !board"
      :model-value="circuit.disconnect"
      :name="at('disconnect')"
      :label="label('circuit.disconnect')"
      @update:model-value="(v) => setIsolator('disconnect', v)"
    />
  </FieldGroup>
</template>
