<script setup lang="ts">
import { useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import BarField from '@/kit/BarField.vue'
import NumberField from '@/kit/NumberField.vue'
import { upstream } from '../options'
import type { Board } from './shape'

/** What every survey needs of the board. */
const board = defineModel<Board>({ required: true })
const at = (field: string) => `survey.board.${field}`
const { asks, label, word, height } = useCountry()
</script>

<template>
  <NumberField v-model="board.rating" :name="at('rating')" :label="label('board.rating')" unit="A" :decimals="0" />
  <NumberField v-model="board.waysFree" :name="at('waysFree')" :label="label('board.waysFree')" :decimals="0" zero />
  <AnswerField
    v-if="asks('board.freePair')"
    v-model="board.freePair"
    :name="at('freePair')"
    :label="label('board.freePair')"
  />
  <NumberField
    v-if="asks('board.circuitsMax')"
    v-model="board.circuitsMax"
    :name="at('circuitsMax')"
    :label="label('board.circuitsMax')"
    :decimals="0"
  />
  <AnswerField
    v-if="asks('board.workingSpace')"
    v-model="board.workingSpace"
    :name="at('workingSpace')"
    :label="label('board.workingSpace')"
    :hint="word('board.clearSpace')"
  />
  <NumberField
    v-if="asks('board.handleHeight')"
    v-model="board.handleHeight"
    :name="at('handleHeight')"
    :label="label('board.handleHeight')"
    v-bind="height"
  />
  <BarField
    v-if="asks('board.upstreamRcdType')"
    v-model="board.upstreamRcdType"
    :name="at('upstreamRcdType')"
    :label="label('board.upstreamRcdType')"
    :options="upstream"
    wide
  />
</template>
