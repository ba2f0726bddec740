<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { poles } from '../options'

/** What is in one space of the board. */
const props = defineProps<{ slotData: Schemas['Slot'] }>()
const emit = defineEmits<{ remove: []; close: [] }>()
const slot = ref(props.slotData)
const at = (f: string) => `survey.board.slot.${f}`
const { asks, label, word } = useCountry()
</script>

<template>
  <div class="slot">
    <b class="mono">{{ word('space') }} {{ slot.at }}</b>
    <TextField v-model="slot.circuit" :name="at('circuit')" label="Feeds" />
    <ChoiceField v-model="slot.poles" :name="at('poles')" :label="word('poles')" :options="poles" />
    <NumberField v-model="slot.rating" :name="at('rating')" label="Rating" unit="A" :decimals="0" />
    <TextField
      v-if="asks('board.slots.double') && (slot.poles ?? 1) === 1"
      v-model="slot.double"
      :name="at('double')"
      :label="label('board.slots.double')"
    />
    <AnswerField
      v-if="asks('board.slots.multiwire')"
      v-model="slot.multiwire"
      :name="at('multiwire')"
      :label="label('board.slots.multiwire')"
    />
    <AnswerField v-model="slot.fixed" :name="at('fixed')" label="Must stay there?" />
    <span class="row">
      <PushButton kind="plain" @click="emit('remove')">Empty the space</PushButton>
      <PushButton @click="emit('close')">Done</PushButton>
    </span>
  </div>
</template>

<style scoped>
.slot {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px 14px;
  align-items: end;
  margin-top: 12px;
  padding-top: 12px;
  border-top: 2px solid var(--copper);
}
b {
  align-self: center;
}
</style>
