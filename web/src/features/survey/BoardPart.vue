<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { fedFroms } from '../options'
import BoardLinks from './BoardLinks.vue'
import BoardMap from './BoardMap.vue'
import BoardMust from './BoardMust.vue'
import type { Board } from './shape'

defineProps<{ fits: Schemas['Fit'][] }>()
const board = defineModel<Board>({ required: true })
const at = (field: string) => `survey.board.${field}`
const { page, asks, label, word } = useCountry()
const terminals = terms(page.value.terminals, (t) => Number(t) as NonNullable<Board['terminals']>)

/** What is asked of a board on a sub-main is of no other. */
function setFedFrom(fedFrom?: Board['fedFrom']) {
  board.value.fedFrom = fedFrom
  if (fedFrom === 'sub-main') return
  board.value.otherDemand = board.value.loop = board.value.drop = undefined
  board.value.outbuilding = {}
}
</script>

<template>
  <FieldGroup :title="word('board')">
    <TextField v-model="board.label" :name="at('label')" label="Label, or where it stands" />
    <BoardMust v-model="board" />
    <NumberField v-model="board.ways" :name="at('ways')" :label="label('board.ways')" :decimals="0" />
    <NumberField
      v-if="asks('board.circuitsFitted')"
      v-model="board.circuitsFitted"
      :name="at('circuitsFitted')"
      :label="label('board.circuitsFitted')"
      :decimals="0"
      hint="a two-pole breaker is two"
    />
    <NumberField v-model="board.breakingKa" :name="at('breakingKa')" label="Breaking capacity" unit="kA" />
    <NumberField
      v-if="asks('board.conditionalKa')"
      v-model="board.conditionalKa"
      :name="at('conditionalKa')"
      :label="label('board.conditionalKa')"
      unit="kA"
      hint="behind the cutout's fuse, off its label"
    />
    <ChoiceField v-model="board.terminals" :name="at('terminals')" label="Terminals marked for" :options="terminals" />
    <ChoiceField
      :model-value="board.fedFrom"
      :name="at('fedFrom')"
      label="Fed from"
      :options="fedFroms"
      @update:model-value="setFedFrom"
    />
    <NumberField
      v-if="board.fedFrom === 'sub-main'"
      v-model="board.otherDemand"
      :name="at('otherDemand')"
      label="Its demand without charging"
      unit="A"
      zero
    />
    <template v-if="asks('board.loop') && board.fedFrom === 'sub-main'">
      <NumberField
        v-model="board.loop"
        :name="at('loop')"
        :label="label('board.loop')"
        unit="Ω"
        hint="measured at it"
      />
      <NumberField
        v-model="board.drop"
        :name="at('drop')"
        :label="label('board.drop')"
        unit="%"
        hint="at its full load"
      />
    </template>
    <template v-if="asks('board.outbuilding') && board.fedFrom === 'sub-main'">
      <AnswerField
        v-model="board.outbuilding.apart"
        :name="at('outbuilding.apart')"
        :label="label('board.outbuilding')"
        hint="apart from the service's"
      />
      <template v-if="board.outbuilding.apart === 'yes'">
        <AnswerField
          v-model="board.outbuilding.disconnect"
          :name="at('outbuilding.disconnect')"
          label="Disconnect where the feeder comes in?"
        />
        <AnswerField
          v-model="board.outbuilding.electrode"
          :name="at('outbuilding.electrode')"
          label="Grounding electrode there?"
        />
        <AnswerField
          v-model="board.outbuilding.neutralApart"
          :name="at('outbuilding.neutralApart')"
          label="Neutral apart from ground?"
        />
      </template>
    </template>
    <template #below>
      <BoardLinks v-model="board" />
    </template>
  </FieldGroup>
  <BoardMap v-model="board" :fits="fits" />
</template>
