<script setup lang="ts">
import type { Schemas } from '@/api/client'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import SheetGroup from '@/kit/SheetGroup.vue'
import TextField from '@/kit/TextField.vue'
import { terminals, upstream } from '../options'
import BoardMap from './BoardMap.vue'
import type { Board } from './shape'

defineProps<{ us: boolean; fits: Schemas['Fit'][] }>()
const board = defineModel<Board>({ required: true })
const at = (field: string) => `survey.board.${field}`
</script>

<template>
  <SheetGroup :title="us ? 'Panel' : 'Board'">
    <TextField v-model="board.label" :name="at('label')" label="Label, or where it stands" />
    <NumberField
      v-model="board.rating"
      :name="at('rating')"
      :label="us ? 'Bus rating' : 'Main switch'"
      unit="A"
      :decimals="0"
    />
    <NumberField v-model="board.ways" :name="at('ways')" :label="us ? 'Spaces' : 'Ways'" :decimals="0" />
    <NumberField
      v-model="board.waysFree"
      :name="at('waysFree')"
      :label="us ? 'Spaces free' : 'Ways free'"
      :decimals="0"
      zero
    />
    <template v-if="us">
      <AnswerField v-model="board.freePair" :name="at('freePair')" label="A pair free, on both legs?" />
      <NumberField v-model="board.circuitsMax" :name="at('circuitsMax')" label="Circuits label allows" :decimals="0" />
      <NumberField
        v-model="board.circuitsFitted"
        :name="at('circuitsFitted')"
        label="Circuits fitted"
        :decimals="0"
        hint="a two-pole breaker is two"
      />
    </template>
    <ChoiceField
      v-else
      v-model="board.upstreamRcdType"
      :name="at('upstreamRcdType')"
      label="Residual device upstream"
      :options="upstream"
    />
    <NumberField v-model="board.breakingKa" :name="at('breakingKa')" label="Breaking capacity" unit="kA" />
    <ChoiceField
      v-model="board.terminals"
      :name="at('terminals')"
      label="Terminals marked for"
      :options="us ? terminals.us : terminals.uk"
    />
  </SheetGroup>
  <BoardMap v-model="board" :us="us" :fits="fits" />
</template>
