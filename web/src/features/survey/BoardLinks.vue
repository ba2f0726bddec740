<script setup lang="ts">
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import { linkKinds } from '../options'
import type { Board } from './shape'

/** What the current passes between the service and this board: the least of it carries the demand. */
const board = defineModel<Board>({ required: true })
const at = (i: number, field: string) => `survey.board.links.${i}.${field}`
const add = () => (board.value.links = [...(board.value.links ?? []), { kind: 'tails' }])
</script>

<template>
  <div class="added" data-field="survey.board.links">
    <div v-for="(link, i) in board.links" :key="i" class="row">
      <ChoiceField v-model="link.kind" :name="at(i, 'kind')" label="On the way to it" :options="linkKinds" />
      <NumberField v-model="link.rating" :name="at(i, 'rating')" label="Carries" unit="A" :decimals="0" />
      <PushButton kind="plain" :aria-label="`Remove link ${i + 1}`" @click="board.links!.splice(i, 1)"> × </PushButton>
    </div>
    <PushButton kind="plain" data-add-link @click="add"> Add what lies between the service and this board </PushButton>
  </div>
</template>
