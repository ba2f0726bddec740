<script setup lang="ts">
import { computed, reactive } from 'vue'
import AnswerField from '@/kit/AnswerField.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import type { Board } from './shape'

/** A person's own arrangement of the board, which is judged in place of the one that the program looks for. */
const board = defineModel<Board>({ required: true })
const at = (field: string) => `survey.board.rearrangement.${field}`
const moves = computed(() => board.value.rearrangement.moves ?? [])
const next = reactive<{ from?: number; to?: number }>({})
/** A move is of the document once both its spaces are known. */
function add() {
  if (!next.from || !next.to) return
  board.value.rearrangement.moves = [...moves.value, { from: next.from, to: next.to }]
  next.from = next.to = undefined
}
const doubled = (from?: number) => board.value.slots.some((s) => s.at === from && s.double)
</script>

<template>
  <div class="added" data-field="survey.board.rearrangement">
    <div class="row">
      <NumberField
        v-model="board.rearrangement.at"
        :name="at('at')"
        label="Or your own: new breaker from space"
        :decimals="0"
        hint="empty: as above"
      />
    </div>
    <div v-for="(m, i) in moves" :key="i" class="row">
      <NumberField v-model="m.from" :name="at(`moves.${i}.from`)" label="Circuit in space" :decimals="0" />
      <AnswerField
        v-if="doubled(m.from)"
        v-model="m.second"
        :name="at(`moves.${i}.second`)"
        label="Its second circuit?"
      />
      <NumberField v-model="m.to" :name="at(`moves.${i}.to`)" label="Moves to space" :decimals="0" />
      <PushButton kind="plain" :aria-label="`Remove move ${i + 1}`" @click="board.rearrangement.moves!.splice(i, 1)">
        ×
      </PushButton>
    </div>
    <div v-if="board.rearrangement.at" class="row">
      <NumberField v-model="next.from" :name="at('from')" label="Then the circuit in space" :decimals="0" />
      <NumberField v-model="next.to" :name="at('to')" label="moves to space" :decimals="0" />
      <PushButton kind="plain" data-add-move :disabled="!next.from || !next.to" @click="add"> Add the move </PushButton>
    </div>
  </div>
</template>
